"""Issued reports and what follows them: states, remedial steps, copies, links for clients."""
