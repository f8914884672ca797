"""Print: what goes to the printer, and which way round?"""
