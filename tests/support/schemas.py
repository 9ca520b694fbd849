"""The plan's schema, read and looked over once: whatever a plan prints is held against it."""

import json
from functools import cache
from importlib import resources
from typing import Any

import jsonschema


@cache
def _validator() -> Any:
    text = resources.files("peristyle").joinpath("data", "plan.schema.json").read_text("utf-8")
    schema = json.loads(text)
    kind = jsonschema.validators.validator_for(schema)
    kind.check_schema(schema)
    return kind(schema)


def check_plan(data: Any) -> None:
    """Raises ValidationError, the first there is, where a plan's JSON is not as its schema says."""
    for error in _validator().iter_errors(data):
        raise error
