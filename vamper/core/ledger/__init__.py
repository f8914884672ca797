"""The ledger: runs as they were really made, what follows from them, what went wrong, and what pieces cost."""
