"""The pages of the finish step."""
