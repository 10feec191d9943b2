"""Random briefs over the whole schema, for the tests and for bench/briefs.py."""

from typing import get_args

from ridgeline.design.brief import Brief
from ridgeline.design.document import Design
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.sizing.outline import outcome, sketch
from ridgeline.errors import DesignError
from ridgeline.library import shipped_shelf


def random_brief(rng):
    """Return a brief whose every field is left, at an end of its range, or anywhere within it."""
    fields = {}
    for name, info in Brief.model_fields.items():
        choices = get_args(info.annotation)
        if choices and all(isinstance(choice, str) for choice in choices):
            fields[name] = rng.choice(choices)
            continue
        limits = {key: getattr(mark, key) for mark in info.metadata for key in ("gt", "ge", "le") if hasattr(mark, key)}
        if "le" not in limits:
            continue
        low = limits["ge"] if "ge" in limits else limits["gt"] * 1.001
        chance = rng.random()
        if chance < 0.6:
            fields[name] = low if chance < 0.1 else limits["le"] if chance < 0.2 else rng.uniform(low, limits["le"])
    if rng.random() < 0.3:
        fields["packs"] = tuple(rng.sample([pack.name for pack in shipped_shelf().packs], 2))
    return Brief(**fields)


def try_brief(brief):
    """Sketch and lay out a brief, and evaluate what comes; return our refusal, or nothing. Anything else is raised."""
    report = evaluate(Design(brief=brief))
    assert all(finding.text and finding.reason for finding in report.findings)
    try:
        drawn = sketch(brief)
        assert all(value == value and abs(value) < 1e9 for _label, value, _q in outcome(brief, drawn.surfaces))
        made = evaluate(lay_out(brief, shipped_shelf()))
    except DesignError as error:
        return str(error)
    for figure in made.figures.values():
        assert figure.value is None or abs(figure.value) < 1e12
    for finding in made.findings:
        words = f"{finding.text} {finding.reason} {' '.join(str(r.text) for r in finding.remedies)}"
        assert " inf" not in words and " nan" not in words, words
    return ""
