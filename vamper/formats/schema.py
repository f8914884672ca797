"""Writes the published JSON Schema of job files: `python -m vamper.formats.schema > docs/job.schema.json`."""

import json
import sys

from vamper.formats.jobfile import job_schema


def schema_text() -> str:
    return json.dumps(job_schema(), indent=1, sort_keys=True) + "\n"


if __name__ == "__main__":
    sys.stdout.write(schema_text())
