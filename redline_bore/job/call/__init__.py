"""What the call step knows: what each cylinder needs, every way there is, pistons, papers."""
