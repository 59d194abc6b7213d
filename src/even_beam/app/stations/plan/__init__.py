"""Plan: what will we read, in which order, how long will it take?"""
