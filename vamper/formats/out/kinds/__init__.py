"""The files of a sheet, a module each."""
