"""What is known of a job, in slices by step; folded from its ledger by ``job.kinds``, changed by nothing else."""
