"""The pages of the bore step."""
