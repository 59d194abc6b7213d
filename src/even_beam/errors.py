"""What can be said to a person as it is."""


class TellableError(Exception):
    """Something that could not be done for a reason that a person can mend or must know: its text says what happened,
    what was kept and what to do. All else that is raised is a fault of the program."""
