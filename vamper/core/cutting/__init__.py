"""Cut: which blade, pressure, passes, speed and mat for this stock?"""
