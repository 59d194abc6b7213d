"""What a camera sees, in words and as plain values: charts, flicker, fades."""
