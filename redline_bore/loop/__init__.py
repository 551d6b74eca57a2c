"""The loop: an obedient machinist does to true blocks what the call card says to the letter, and it is counted what comes of it."""
