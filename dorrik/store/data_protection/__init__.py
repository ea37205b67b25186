"""What is kept of somebody and for how long; taking it along, erasing it, forgetting it."""
