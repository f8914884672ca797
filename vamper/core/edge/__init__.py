"""Edge: where will the blade run?"""
