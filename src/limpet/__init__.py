"""Limpet's core: the rules and the arithmetic of range tests of light electric vehicles.

Nothing here knows of Django, HTTP or a screen. The page, the API and the command line call the
same functions, so that they print the same numbers.
"""
