"""What is done with a job, without a window.

Open, book in, book, strike, sign, hand in. The window, the command line and the sample jobs all do it here, so that
none of them books a poorer job than the others.
"""
