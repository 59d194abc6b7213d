"""Start Even Beam with `python -m even_beam`."""

from even_beam.cli import main

if __name__ == "__main__":
    main()
