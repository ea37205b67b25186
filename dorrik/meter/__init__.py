"""The simulated instrument as a program of its own: a bench with a simulated home, and the link by which what it shows
reaches Dorrik (docs/instrument-link.md)."""
