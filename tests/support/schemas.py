"""The plan's schema, read and looked over once: whatever a plan prints is held against it."""

import json
from functools import cache
from importlib import resources
from typing import Any

import jsonschema

MANY = 120


@cache
def _validator() -> Any:
    text = resources.files("peristyle").joinpath("data", "plan.schema.json").read_text("utf-8")
    schema = json.loads(text)
    kind = jsonschema.validators.validator_for(schema)
    kind.check_schema(schema)
    return kind(schema)


def check_plan(data: Any) -> None:
    """Raises ValidationError, the first there is, where a plan's JSON is not as its schema says."""
    if isinstance(data, dict):  # of thousands of keys, each like the next, some will do
        data = {key: value[:MANY] if isinstance(value, list) else value for key, value in data.items()}
    for error in _validator().iter_errors(data):
        raise error
