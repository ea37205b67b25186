"""Measurements: `make bench`, or `python -m benchmarks NAME` for one of them."""
