"""Firms and their people: signing in, sessions, devices, and the record of what was done about rights."""
