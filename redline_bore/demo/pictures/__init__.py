"""Pictures of honed walls for the sample jobs, drawn by tools/wall_pictures.py."""
