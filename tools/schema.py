"""Write docs/job.schema.json from the models in force."""

import json
from pathlib import Path

from redline_bore.store.job_file import job_schema

if __name__ == "__main__":
    Path("docs/job.schema.json").write_text(json.dumps(job_schema(), indent=1) + "\n", "utf-8")
