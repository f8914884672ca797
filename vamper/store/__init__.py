"""The workshop's memory: one SQLite file that holds everything, art bytes included."""
