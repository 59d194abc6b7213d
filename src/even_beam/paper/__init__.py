"""What can be handed over: a page in HTML or PDF, and tables. Handed records and findings; opens no logbook."""
