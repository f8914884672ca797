"""The ledger: runs, recipes, and what went wrong."""
