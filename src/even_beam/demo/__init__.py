"""The demo: the film unit of a botanic garden and its lamps, all invented, read by the simulator with fixed seeds."""
