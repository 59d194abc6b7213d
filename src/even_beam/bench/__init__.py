"""What the technician does: records and rules. No files, no interface, no clock of its own."""
