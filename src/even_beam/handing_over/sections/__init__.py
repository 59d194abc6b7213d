"""The sections of reports: each tells of one subject, from what is found of the lamps, or is empty."""
