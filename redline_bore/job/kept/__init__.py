"""What a job leaves for others to find without folding its ledger: its line in the list, and what it taught and set."""
