"""Planning visits with a solver: from what is wanted to days that can be kept."""
