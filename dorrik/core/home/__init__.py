"""How the parts of one home hang together: boards, rooms, points, RCDs, what stands where."""
