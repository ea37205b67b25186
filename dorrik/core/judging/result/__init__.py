"""From verdicts to a result: causes folded, observations suggested and coded, what stands against satisfactory."""
