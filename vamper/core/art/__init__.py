"""Art: is this picture fit to print and cut at this size?"""
