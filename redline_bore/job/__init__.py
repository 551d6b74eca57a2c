"""What a job remembers: ledger entries, the state folded from them, practices, and the advice drawn from the state."""
