"""Writes the published JSON Schemas: `python -m vamper.formats.schema job > docs/job.schema.json`, and the others."""

import json
import sys

from vamper.formats.chain_file import steps_schema
from vamper.formats.dry_run_file import dry_run_schema
from vamper.formats.job_file import job_schema
from vamper.formats.ladder_file import ladder_result_schema, ladder_schema
from vamper.formats.plan_document import plan_schema
from vamper.formats.readings_file import fit_schema, readings_schema

SCHEMAS = {
    "job": job_schema,
    "plan": plan_schema,
    "readings": readings_schema,
    "calibration": fit_schema,
    "ladder": ladder_schema,
    "ladder-result": ladder_result_schema,
    "dry-run": dry_run_schema,
    "steps": steps_schema,
}


def schema_text(name: str) -> str:
    return json.dumps(SCHEMAS[name](), indent=1, sort_keys=True) + "\n"


if __name__ == "__main__":
    sys.stdout.write(schema_text(sys.argv[1]))
