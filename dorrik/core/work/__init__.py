"""The work around an inspection: register, planning, earlier papers, prices, what follows a report."""
