"""The stages of the chain after the print, one table each: its rows, and what decides that they are done."""
