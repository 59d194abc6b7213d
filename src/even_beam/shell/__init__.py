"""What every subject needs of its surroundings: settings, places, jobs, log, notices."""
