"""Report: what can I hand over?"""
