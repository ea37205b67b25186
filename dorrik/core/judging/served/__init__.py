"""What is worked out for the screens beside the verdicts: points in their order, walk, scales, lists."""
