"""The ledger of a job: its entries, and the state folded from them."""
