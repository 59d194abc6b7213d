"""What a camera sees: charts in photographs, light that flickers, fades. Arrays in, figures out."""
