"""How long a test waits for what comes from elsewhere: a machine that is busy with something else is no fault of the program's."""

PATIENCE_S = 30.0
