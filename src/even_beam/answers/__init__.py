"""What each station shows, as plain values and sentences, for window, paper and command line alike."""
