"""The pages of the call: the ladder, the options, pistons and clearance, where a shadow stays, two calls, the order."""
