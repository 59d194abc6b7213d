"""What Spectrum and `inspect` show of files of spectra."""
