"""The window. PyQt6 Widgets; everything shown is asked from the job, and everything done is an entry in the ledger."""
