"""Spectrum: everything that one spectrum says."""
