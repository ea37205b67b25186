"""Letters that leave: the queue, the budget, the server of a firm."""
