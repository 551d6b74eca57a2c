"""The pages of the sleeve step."""
