"""Charts as plain data, and how they are printed. No Qt here: the screen has a renderer of its own."""
