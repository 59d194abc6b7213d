"""What to dial or clip on so that lights agree; several on one subject; light enough; mains and batteries."""
