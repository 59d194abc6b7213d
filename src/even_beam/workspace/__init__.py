"""What the window and the command line both do, without an interface."""
