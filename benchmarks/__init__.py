"""Speed, measured as ratios in one run. `make bench` prints them; no test asserts a time."""
