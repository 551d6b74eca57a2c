"""What the bore step knows: cuts, settings, what the bar taught, its run sheet."""
