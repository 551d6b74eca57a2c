"""Help: a screen for every page, and the words of the shop; the manual is made from the same text."""
