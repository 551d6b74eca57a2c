"""Small stand-ins that speak the same protocol as the real thing."""
