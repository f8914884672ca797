"""Use-cases: import art, plan and pack a job, hand off. Transactions, caches and background work live here."""
