"""Starting: the empty sheet first, the desk on it, pictures for the README, and refusals before any window."""

import pytest
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QApplication

from ridgeline.desk import app as desk
from ridgeline.desk.shell import Shell
from ridgeline.files.design_file import save
from ridgeline.start import main


def test_the_shell_paints_ruled_paper_and_then_holds_the_desk(qapp, qtbot):
    shell = Shell("Whimbrel")
    qtbot.addWidget(shell)
    shell.resize(1280, 800)
    shell.show()
    QApplication.processEvents()
    empty = shell.grab().toImage()
    window = desk.open_window("demo:whimbrel", "weights")
    window.store.forget()
    shell.adopt(window)
    QApplication.processEvents()
    assert window.isVisible() and window.width() == shell.width() and window.open_key == "weights"
    assert "Saltmarsh Whimbrel" in shell.windowTitle()
    assert shell.grab().toImage() != empty
    window.store.put("name", "Other", "rename")
    assert "Other *" in shell.windowTitle()
    shell.close()


def test_closing_the_shell_keeps_unsaved_work(qapp, qtbot):
    from ridgeline.files.sittings import leftovers

    shell = Shell("a new sheet")
    qtbot.addWidget(shell)
    window = desk.open_window("demo:whimbrel", "balance")
    shell.adopt(window)
    shell.show()
    window.store.put("name", "Left behind", "rename")
    shell.close()
    window.store.forget()
    assert [left.name for left in leftovers()[0]] == ["Left behind"]


@pytest.mark.parametrize("sheet", ["brief", "shape", "weights", "balance", "power"])
def test_a_picture_of_every_sheet_is_written_at_the_size_asked_for(qapp, tmp_path, sheet):
    place = tmp_path / f"{sheet}.png"
    assert main(["open", "demo:whimbrel", "--shot", str(place), "--sheet", sheet, "--size", "1300x820"]) == 0
    image = QImage(str(place))
    assert (image.width(), image.height()) == (1300, 820)
    colours = {image.pixelColor(x, y).name() for x in range(0, 1300, 13) for y in range(0, 820, 13)}
    assert len(colours) > 10


@pytest.mark.parametrize("name", ["dunlin", "avocet", "turnstone"])
def test_every_demo_has_its_picture(qapp, tmp_path, name):
    place = tmp_path / "shape.png"
    assert main(["open", f"demo:{name}", "--shot", str(place), "--sheet", "shape"]) == 0
    assert place.stat().st_size > 20_000


def test_a_picture_of_a_saved_file_and_of_an_empty_sheet(qapp, tmp_path, whimbrel):
    path = save(whimbrel, tmp_path / "plane.ridge")
    assert main([str(path), "--shot", str(tmp_path / "a.png")]) == 0
    assert main(["open", "--shot", str(tmp_path / "b.png"), "--sheet", "brief"]) == 0


def test_a_picture_that_cannot_be_written_is_refused_in_one_line(qapp, tmp_path, capsys):
    assert main(["open", "demo:whimbrel", "--shot", str(tmp_path / "no" / "x.png")]) == 2
    assert "cannot be written" in capsys.readouterr().err


@pytest.mark.parametrize("size", ["12x12", "1280", "ax800", "99999x800"])
def test_a_size_that_is_none_is_refused(capsys, size):
    assert main(["open", "demo:whimbrel", "--shot", "x.png", "--size", size]) == 2
    assert "allowed" in capsys.readouterr().err


def test_a_dark_picture_is_dark(qapp, tmp_path):
    from ridgeline.desk.theme import dress

    try:
        place = tmp_path / "dark.png"
        assert main(["open", "demo:whimbrel", "--shot", str(place), "--theme", "dark"]) == 0
        image = QImage(str(place))
        assert sum(image.pixelColor(x, 36).lightness() < 60 for x in range(200, 900, 10)) > 60
    finally:
        dress(qapp, "light")


@pytest.mark.parametrize(("words", "status"), [((), 2), (("--shot", "x.png"), 0)])
def test_without_a_display_a_window_is_refused_and_a_picture_is_drawn(tmp_path, words, status):
    import os
    import subprocess
    import sys

    hidden = ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")
    bare = {name: value for name, value in os.environ.items() if name not in hidden}
    done = subprocess.run(
        [sys.executable, "-m", "ridgeline", "open", "demo:whimbrel", *words],
        env=bare,
        cwd=tmp_path,
        capture_output=True,
        text=True,
        timeout=120,
    )
    assert done.returncode == status
    if status:
        assert "no display" in done.stderr and done.stderr.count("\n") == 1
    else:
        assert (tmp_path / "x.png").stat().st_size > 20_000
