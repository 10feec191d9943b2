"""Writing out from the menu and from the command line of the window."""

from PySide6.QtWidgets import QMenu

from ridgeline.desk import exporting
from ridgeline.files.exports import EXPORTS


def test_the_menu_has_every_export_and_asks_before_it_writes_over(desk, tmp_path, monkeypatch):
    menu = next(m for m in desk.findChildren(QMenu) if m.title() == "Write out")
    assert [action.text() for action in menu.actions()] == [f"{row.words}…" for row in EXPORTS]
    place = tmp_path / "figures.csv"
    monkeypatch.setattr(exporting, "ask_place", lambda *_words: str(tmp_path / "figures"))
    menu.actions()[1].trigger()
    assert place.read_text("utf-8").startswith("key,label") and desk.notice.words == "Wrote figures.csv"
    place.write_text("mine")
    menu.actions()[1].trigger()
    assert place.read_text() == "mine" and "is there already" in desk.notice.words


def test_what_cannot_be_written_is_refused_in_words(desk, tmp_path):
    exporting.write(desk.store, "items", tmp_path / "nowhere" / "items.csv")
    assert desk.notice.isVisible() and not (tmp_path / "nowhere").exists()


def test_a_section_is_that_of_the_selected_surface(desk, tmp_path):
    tail = desk.store.design.surfaces[1]
    desk.store.select("surfaces[1].stations[0]")
    exporting.write(desk.store, "section", tmp_path / "tail.dat")
    assert tail.name in (tmp_path / "tail.dat").read_text().splitlines()[0]
    assert "Write out: Table of items – command" in desk.bar.command.entries()
