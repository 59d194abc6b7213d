"""What stands in the Kit beside the lamps: meters, modifiers and gels, subjects, limits."""
