"""Files as anybody may have laid them: written in one way, so that nothing of anybody's is lost by it."""
