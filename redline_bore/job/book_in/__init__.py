"""Booking a job in: the card as it is being filled, and what is still not known of the block."""
