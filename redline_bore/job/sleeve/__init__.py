"""What the sleeve step knows: fits, heat, deck, ways, its run sheet."""
