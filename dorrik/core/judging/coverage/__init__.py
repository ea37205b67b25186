"""What was covered: progress, schedule, limitations, sampling, and what a mark of N/A needs."""
