"""What the Kit shows and keeps."""
