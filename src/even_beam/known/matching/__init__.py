"""What to dial or clip on so that lights agree, what several give together, and whether it is light enough."""
