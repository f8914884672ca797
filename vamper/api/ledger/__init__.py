"""The ledger on the wire: runs, recipes, and what went wrong."""
