"""The user guide: Markdown pages that ship with the program."""
