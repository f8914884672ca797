"""The craft: pure functions over frozen dataclasses and arrays, in millimetres.

One sub-package a station of the work (art, edge, sheet, marks, printing, cutting); each knows only
the stations before it. Nothing here touches a file, a clock, the network or a database.
"""
