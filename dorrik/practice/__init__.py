"""Simulated installations whose faults are known because we put them there, and the instrument that measures them.

Uses the core only. So far: ring final circuits, dead, with low ohms.
"""
