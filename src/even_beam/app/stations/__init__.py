"""The stations of the window, one package each."""
