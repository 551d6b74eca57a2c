"""The pages of the hone step."""
