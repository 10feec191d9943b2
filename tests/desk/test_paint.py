"""The shared painting: marks told apart by shape, inks that can be read, words that stay inside."""

import math
from itertools import pairwise

import pytest
from PySide6.QtCore import QRectF
from PySide6.QtGui import QColor, QImage, QPainter

from ridgeline.desk import paint
from ridgeline.desk.scales import Plot, Scale, ruler, short_scale
from ridgeline.desk.theme import DARK, LIGHT, dress, theme

STATES = ("untouched", "settled", "look", "stop")


def picture(draw, width=60, height=40):
    """Return what a painting function draws on paper, as an image."""
    image = QImage(width, height, QImage.Format.Format_RGB32)
    image.fill(theme.inks.paper)
    p = QPainter(image)
    p.setRenderHint(QPainter.RenderHint.Antialiasing)
    try:
        draw(p)
    finally:
        # A painter that outlives its picture in the trace of a fault takes the whole run down.
        p.end()
    return image


def marked(image, colour=None):
    """Return the places that are not paper (or have one colour)."""
    paper = theme.inks.paper.rgb()
    found = set()
    for x in range(image.width()):
        for y in range(image.height()):
            pixel = image.pixel(x, y)
            if (colour is None and pixel != paper) or (colour is not None and pixel == colour.rgb()):
                found.add((x, y))
    return found


def contrast(first: QColor, second: QColor) -> float:
    """Return the contrast ratio of two inks by the WCAG formula."""

    def luminance(colour):
        parts = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in colour.getRgbF()[:3]]
        return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]

    light, dark = sorted((luminance(first), luminance(second)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


@pytest.mark.parametrize("inks", [LIGHT, DARK], ids=["light", "dark"])
@pytest.mark.parametrize("role", ["ink", "soft", "live", "stop", "predicted", "measured"])
def test_every_ink_that_writes_words_can_be_read_on_its_paper(inks, role):
    assert contrast(getattr(inks, role), inks.paper) >= 4.5


@pytest.mark.parametrize("inks", [LIGHT, DARK], ids=["light", "dark"])
def test_the_look_here_ink_can_be_seen(inks):
    assert contrast(inks.look, inks.paper) >= 3.0


def test_the_four_states_differ_in_shape_not_only_in_colour(qapp):
    shapes = {state: marked(picture(lambda p, s=state: paint.state_mark(p, 30, 20, s))) for state in STATES}
    for one in STATES:
        for other in STATES:
            if one != other:
                apart = shapes[one] ^ shapes[other]
                assert len(apart) > 0.2 * len(shapes[one] | shapes[other]), (one, other)


def test_a_ring_is_hollow_and_a_disc_is_not(qapp):
    ring, disc = (marked(picture(lambda p, s=s: paint.state_mark(p, 30, 20, s))) for s in ("untouched", "settled"))
    assert (30, 20) not in ring and (30, 20) in disc


def test_hatches_rise_for_the_one_school_and_fall_for_the_other(qapp):
    area = QRectF(5, 5, 40, 30)
    rising = marked(picture(lambda p: paint.hatch(p, area, theme.inks.ink)))
    falling = marked(picture(lambda p: paint.hatch(p, area, theme.inks.ink, rising=False)))
    assert rising != falling
    assert all(4 <= x <= 46 and 4 <= y <= 36 for x, y in rising | falling)


def test_the_balance_mark_has_opposite_quarters_filled(qapp):
    image = picture(lambda p: paint.cg_mark(p, 30, 20, 10))
    live, paper = theme.inks.live.rgb(), theme.inks.paper.rgb()
    assert image.pixel(26, 16) == live and image.pixel(34, 24) == live
    assert image.pixel(34, 16) == paper and image.pixel(26, 24) == paper


def test_words_are_written_where_they_are_aligned(qapp):
    left = marked(picture(lambda p: paint.write(p, 100, 20, "mm"), 200))
    right = marked(picture(lambda p: paint.write(p, 100, 20, "mm", align="right"), 200))
    middle = marked(picture(lambda p: paint.write(p, 100, 20, "mm", align="centre"), 200))
    assert min(x for x, _ in left) >= 99 and max(x for x, _ in right) <= 101
    assert min(x for x, _ in middle) < 100 < max(x for x, _ in middle)


def test_the_bar_of_the_mean_chord_is_painted_over_its_letter(qapp):
    plain = marked(picture(lambda p: paint.write(p, 10, 25, "c")))
    barred = marked(picture(lambda p: paint.write(p, 10, 25, "c\u0304")))
    extra = barred - plain
    assert extra and max(y for _, y in extra) < min(y for _, y in plain)
    assert paint.width_of("c\u0304") == paint.width_of("c")


def test_a_short_scale_puts_value_band_and_wanted_range_in_their_places(qapp):
    def draw(p):
        short_scale(p, QRectF(10, 10, 100, 8), 0, 10, 5.0, (1.0, 1.0), (2.0, 8.0), theme.inks.live)

    image = picture(draw, 120)
    tick = {x for x, _y in marked(image, theme.inks.live)}
    assert min(tick) == pytest.approx(50, abs=2) and max(tick) == pytest.approx(70, abs=2)
    assert (25, 14) not in marked(image, theme.inks.live)


def test_a_short_scale_without_a_value_draws_only_its_range(qapp):
    image = picture(
        lambda p: short_scale(p, QRectF(10, 10, 100, 8), 0, 10, None, (0, 0), (None, 8.0), theme.inks.live), 120
    )
    assert not marked(image, theme.inks.live) and marked(image)


def test_a_value_off_its_scale_is_drawn_at_the_end_and_not_outside(qapp):
    image = picture(
        lambda p: short_scale(p, QRectF(10, 10, 100, 8), 0, 10, 50.0, (1.0, 1.0), None, theme.inks.live), 120
    )
    assert max(x for x, _y in marked(image)) <= 113


@pytest.mark.parametrize(("x1", "x2"), [(10, 190), (190, 10), (90, 104)])
def test_a_dimension_writes_its_words_on_the_line_or_beside_it_when_there_is_no_room(qapp, x1, x2):
    seen = []
    original = paint.write

    def spy(p, x, y, words, *args, **more):
        seen.append((x, words))
        return original(p, x, y, words, *args, **more)

    paint.write = spy
    try:
        picture(lambda p: paint.dimension(p, x1, x2, 20, "640"), 240)
    finally:
        paint.write = original
    x, words = seen[0]
    assert words == "640"
    assert (min(x1, x2) < x < max(x1, x2)) == (abs(x2 - x1) > 50)


def test_ruler_labels_never_run_into_each_other(qapp):
    spans = []
    original = paint.write

    def spy(p, x, y, words, *args, **more):
        half = paint.width_of(words, 11) / 2
        spans.append((x - half, x + half))
        return 0.0

    paint.write = spy
    try:
        for width in (60, 120, 300, 700):
            spans.clear()
            picture(lambda p, w=width: ruler(p, QRectF(5, 5, w, 20), 0, 1000, 100), width + 20)
            ordered = sorted(spans)
            assert all(a[1] <= b[0] for a, b in pairwise(ordered))
    finally:
        paint.write = original


def test_dressing_in_dark_changes_every_ink_and_back(qapp):
    try:
        dress(qapp, "dark")
        assert theme.dark and theme.inks.paper.lightness() < 60
        assert marked(picture(lambda p: paint.state_mark(p, 30, 20, "settled")))
    finally:
        dress(qapp, "light")
    assert not theme.dark


def test_every_letter_the_product_writes_is_in_its_own_type(qapp):
    from PySide6.QtGui import QRawFont

    from ridgeline.desk.theme import font
    from ridgeline.engine.pipeline import evaluate
    from ridgeline.files.design_file import load
    from ridgeline.units import IMPERIAL, METRIC

    words = set()
    for name in ("whimbrel", "dunlin", "avocet", "turnstone"):
        report = evaluate(load(f"demo:{name}"))
        for figure in report.figures.values():
            words |= set(figure.label + figure.why_not)
            if figure.working:
                words |= set(figure.working.formula + figure.working.substituted + figure.working.source)
                words |= set(figure.working.note)
        for finding in report.findings:
            for system in (METRIC, IMPERIAL):
                words |= set(finding.text.render(system) + finding.reason.render(system))
    for system in (METRIC, IMPERIAL):
        for unit in system.values():
            words |= set(unit.symbol)
    raw = QRawFont.fromFont(font(12))
    assert raw.familyName().startswith("B612")
    missing = {letter for letter in words if not raw.supportsCharacter(ord(letter))}
    assert not missing, missing


def test_a_scale_gives_places_and_values_back_and_holds_them_inside():
    scale = Scale(2.0, 6.0, 300.0, 100.0)
    assert scale.at(3.0) == 250.0 and scale.value(250.0) == 3.0
    assert scale.at(8.0) == 0.0 and scale.held(8.0) == 100.0 and scale.held(1.0) == 300.0
    assert scale.value(40.0) == 6.0 and scale.value(900.0) == 2.0


def test_a_plot_stands_up_leaves_out_what_has_no_value_and_holds_what_leaves_it():
    box = QRectF(10, 20, 200, 100)
    free, held = (Plot.of(box, (0.0, 10.0), (0.0, 5.0), inside=inside) for inside in (False, True))
    assert free.at(0, 0) == box.bottomLeft() and free.at(10, 5) == box.topRight()
    assert free.at(5, 10).y() == -80.0 and held.at(5, 10).y() == box.top()
    assert free.points([1.0, 2.0, 3.0], [1.0, math.nan, 2.0]) == [free.at(1, 1), free.at(3, 2)]
    assert free.between([0.0, 10.0], [1.0, 1.0], [4.0, 4.0]).boundingRect() == QRectF(10, 40, 200, 60)
