"""What the sign-off step knows: the sheet, open points, closing, what a job teaches."""
