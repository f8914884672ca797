"""Marks: will the cutter find the print?"""
