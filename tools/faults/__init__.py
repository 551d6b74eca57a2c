"""What a disk, a power cut or a kill does to what was kept: campaigns with counts."""
