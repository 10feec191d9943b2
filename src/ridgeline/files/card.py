"""A card to print and keep with the model: rows of cells, ruled and with boxes to tick, as an SVG of its true size."""

from __future__ import annotations

import textwrap
from xml.sax.saxutils import escape

#: A card as wide as a postcard; rows, columns and margins, mm; and letters, mm.
_WIDE, _ROW, _EDGE, _SIZE, HEAD = 148.0, 5.6, 8.0, 3.2, 5.2
_COLUMNS = (0.0, 6.0, 40.0, 58.0, 71.0, 84.0, 96.0)
#: A letter is about so wide for its size: what would run off is broken.
_LETTER = 0.60


class CardLine:
    """A row of a card: cells at columns, or words across it; ruled where it heads others."""

    def __init__(
        self, *cells: str, size: float = _SIZE, bold: bool = False, right: str = "", ruled: bool = False,
        boxed: bool = False,
    ) -> None:  # fmt: skip
        self.cells, self.size, self.bold = cells, size, bold
        self.right, self.ruled, self.boxed = right, ruled, boxed


def drawn_card(lines: list[CardLine]) -> str:
    """Draw rows as an SVG in millimetres; words too long for their place go on below it.

    Parameters
    ----------
    lines : list of CardLine

    Returns
    -------
    str
    """
    y, body = _EDGE + HEAD, []
    for line in lines:
        deep = 1
        weight = ' font-weight="bold"' if line.bold else ""
        if line.ruled:
            y += 0.5 * _ROW
            body.append(f'<path d="M{_EDGE:.1f} {y + 1.4:.1f}H{_WIDE - _EDGE:.1f}" stroke="#000" stroke-width="0.2"/>')
        if line.boxed:
            body.append(f'<rect x="{_EDGE:.1f}" y="{y - 2.8:.1f}" width="3" height="3" fill="none" stroke="#000" '
                        f'stroke-width="0.25"/>')  # fmt: skip
        for k, words in enumerate(line.cells):
            if not words:
                continue
            x, ends = _EDGE + _COLUMNS[k], k == len(line.cells) - 1
            room = _WIDE - _EDGE - x if ends else _COLUMNS[k + 1] - _COLUMNS[k] - 1.0
            rows = textwrap.wrap(words, max(int(room / (_LETTER * line.size)), 4)) if ends else [words]
            for n, part in enumerate(rows):
                body.append(f'<text x="{x:.1f}" y="{y + 0.8 * n * _ROW:.1f}" font-size="{line.size}"{weight}>'
                            f"{escape(part)}</text>")  # fmt: skip
            deep = max(deep, len(rows))
        if line.right:
            body.append(f'<text x="{_WIDE - _EDGE:.1f}" y="{y:.1f}" font-size="{_SIZE}" text-anchor="end">'
                        f"{escape(line.right)}</text>")  # fmt: skip
        y += 0.8 * (deep - 1) * _ROW + (_ROW if line.size == _SIZE else HEAD + 1.0)
    tall = y + _EDGE - _ROW
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{_WIDE:.1f}mm" height="{tall:.1f}mm" '
        f'viewBox="0 0 {_WIDE:.1f} {tall:.1f}" font-family="sans-serif">'
    )
    frame = (f'<rect x="1" y="1" width="{_WIDE - 2:.1f}" height="{tall - 2:.1f}" fill="#fff" stroke="#000" '
             f'stroke-width="0.3"/>')  # fmt: skip
    return "\n".join([head, frame, *body, "</svg>"]) + "\n"
