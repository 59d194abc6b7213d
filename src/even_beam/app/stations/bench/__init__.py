"""The Bench: what is the next reading, and is this one right?"""
