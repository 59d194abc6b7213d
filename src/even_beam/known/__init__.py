"""What is known of lamps at terms: findings, comparisons, matches, verdicts. Values, half widths, marks; no files."""
