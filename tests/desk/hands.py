"""Hands that build an aircraft in a window by menus, presses and typed values, and count them."""

from PySide6.QtGui import QAction
from PySide6.QtWidgets import QApplication

from conftest import press, type_into
from ridgeline.engine.report import LEVELS


class Hands:
    """Mouse and keys at a window; ``count`` is how many presses and typed values it took so far."""

    def __init__(self, window):
        self.window, self.store, self.count = window, window.store, 0

    @property
    def design(self):
        return self.store.design

    @property
    def sheet(self):
        return self.window.sheet

    def menu(self, words):
        """Press an entry of the menu bar."""
        actions = self.window.bar.menus.findChildren(QAction)
        next(a for a in actions if a.text().split("\t")[0] == words).trigger()
        self._done()

    def turn(self, key):
        """Turn to a sheet, as its stop and leaf are pressed."""
        self.window.open_sheet(key)
        self._done()

    def press(self, widget):
        """Press a button."""
        press(widget)
        self._done()

    def type(self, field, text):
        """Type a value into a field."""
        type_into(field, text)
        assert field.property("wrong") != "true", f"{text} was refused by {field.accessibleName()}"
        self._done()

    def pick(self, path):
        """Press a part in a drawing."""
        self.store.select(path)
        self._done()

    def dim(self, path, text):
        """Type a dimension of what is selected."""
        self.type(self.window.margin.dimensions.fields[path], text)

    def choose(self, label, value):
        """Choose a word among the dimensions of what is selected."""
        self.window.margin.dimensions.words[label].choose(value)
        self._done()

    def act(self, words):
        """Press what can be done with what is selected."""
        self.press(self.window.margin.dimensions.acts[words])

    def brief(self, **wishes):
        """Say wishes at the Brief: words are chosen, values typed, a purpose pressed."""
        self.turn("brief")
        for field, value in wishes.items():
            if field == "purpose":
                self.press(self.sheet.purposes[value])
            elif f"brief.{field}" in self.sheet.words:
                self.sheet.words[f"brief.{field}"].choose(value)
                self._done()
            else:
                self.type(self.sheet.fields[field], value)

    def lay_out(self):
        """Have the airframe of the brief laid out."""
        self.turn("brief")
        self.press(self.sheet.lay_out_button)
        assert self.design.surfaces, self.window.notice.words

    def outline(self, surface, **known):
        """Type what is known of a surface's outline: it is selected on the Planform leaf."""
        self.turn("shape.planform")
        self.sheet.which.choose(self.design.surfaces[surface].id)
        self._done()
        for name, text in known.items():
            self.type(self.sheet.fields[name], text)

    def ways_out(self, key):
        """Return the buttons of a finding of its stop, once that is open."""
        found = next((f for f in self.store.report.findings if f.key == key), None)
        if found is None:
            return {}
        self.window.open_sheet(found.stop)
        QApplication.processEvents()
        view = next(v for v in self.window.margin.findings.views if v.finding.key == key)
        return dict(zip((r.key for r in view.finding.remedies), view.buttons, strict=False))

    def remedy(self, key, way=None):
        """Press a way out of a finding, the first where none is named; returns whether there was one."""
        buttons = self.ways_out(key)
        if not buttons or (way is not None and way not in buttons):
            return False
        self.press(buttons[way] if way is not None else next(iter(buttons.values())))
        return True

    def settle(self, most=14, levels=("stop",)):
        """Press ways out of what must be stopped for, worst first, until nothing is left of it or nothing helps."""
        tried = set()
        for _ in range(most):
            worst = [f for f in self.store.report.findings if f.level in levels and f.remedies]
            step = next(((f.key, r.key) for f in worst for r in f.remedies if (f.key, r.key) not in tried), None)
            if step is None:
                return
            tried.add(step)
            before, now = self.design, _badness(self.store.report)
            self.remedy(*step)
            if _badness(self.store.report) > now:
                self.store.undo()
                assert self.design == before
                self.count += 1

    def _done(self):
        QApplication.processEvents()
        self.count += 1


def _badness(report):
    """How much there is to stop for, and to look at."""
    return tuple(sum(f.level == level for f in report.findings) for level in LEVELS[:2])
