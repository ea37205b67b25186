"""What a firm has settled: rules, own catalogue entries, rates, papers and the numbers that it gives."""
