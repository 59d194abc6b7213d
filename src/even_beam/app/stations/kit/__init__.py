"""The Kit: what have we got, and what do we know of it?"""
