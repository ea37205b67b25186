"""Planning as it is kept: visits with their places, runs of the solver, what occupiers were asked and said."""
