"""A module a step. Each shows one step of the job and says what Enter does there."""
