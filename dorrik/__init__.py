"""Dorrik: periodic condition reports on the electrical installations of homes."""

__version__ = "0.1.0"
