"""A report as plain data and as a table: figures with their bands in stored units, findings with their remedies."""

from __future__ import annotations

import csv
import io
import json
from typing import Any

from ridgeline.engine.report import Report


def as_data(report: Report) -> dict[str, Any]:
    """Return a report as plain data: figures in stored units with their bands, findings with their remedies."""
    figures = {
        key: {"value": f.value, "low": f.low, "high": f.high, "unit": f.unit, "label": f.label}
        | ({"why": f.why_not} if f.value is None else {})
        for key, f in report.figures.items()
    }
    findings = [
        {
            "key": f.key,
            "level": f.level,
            "text": str(f.text),
            "reason": str(f.reason),
            "stop": f.stop,
            "remedies": [
                {"key": r.key, "text": str(r.text), "changes": {c.path: _plain(c.value) for c in r.changes}}
                | ({"price": str(r.price)} if r.price else {})
                for r in f.remedies
            ],
        }
        for f in report.findings
    ]
    return {"figures": figures, "findings": findings}


def _plain(value: Any) -> Any:
    if hasattr(value, "model_dump"):
        return value.model_dump(mode="json")
    if isinstance(value, tuple | list):
        return [_plain(entry) for entry in value]
    return value


def report_text(report: Report) -> str:
    """Write a report as JSON."""
    return json.dumps(as_data(report), indent=1, ensure_ascii=False) + "\n"


def figures_table(report: Report) -> str:
    """Write the figures as CSV: key, label, value and its 90 % band in the unit beside them, or why there is none."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["key", "label", "value", "low", "high", "unit", "why not"])
    for key, f in report.figures.items():
        numbers = ["" if v is None else f"{v:.9g}" for v in (f.value, f.low, f.high)]
        writer.writerow([key, f.label, *numbers, f.unit, f.why_not if f.value is None else ""])
    return out.getvalue()
