"""Release check: the wheel installed into an empty environment with everything fetched anew, a window opened in it.

Needs a package index; `./test` does not. Prints the versions that came and exits 0 when a drawn window was written.

    python bench/clean_install.py
"""

import os
import subprocess
import sys
import tempfile
import venv
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
#: Paints far more often than the release that aborted needed to.
USE = """
import sys
from ridgeline.start import main
for count in range(4):
    for sheet in ("brief", "shape", "weights", "balance", "power"):
        assert main(["open", "demo:whimbrel", "--shot", sys.argv[1], "--sheet", sheet, "--size", "1280x800"]) == 0
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load
print(f"all-up weight {evaluate(load('demo:whimbrel')).value('mass.auw'):.4f} kg")
"""


def main() -> int:
    """Build, install and use the wheel; returns the exit status."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        subprocess.run([sys.executable, "-m", "pip", "wheel", "-q", "--no-deps", "-w", folder, ROOT], check=True)
        (wheel,) = folder.glob("*.whl")
        venv.create(folder / "env", with_pip=True)
        python = folder / "env" / "bin" / "python"
        subprocess.run([python, "-m", "pip", "install", "-q", wheel], check=True)
        subprocess.run([python, "-m", "pip", "list", "--format=freeze"], check=True)
        shot = folder / "shot.png"
        environment = os.environ | {"QT_QPA_PLATFORM": "offscreen"}
        done = subprocess.run([python, "-c", USE, shot], env=environment, cwd=folder)
        print(f"exit {done.returncode}, picture of {shot.stat().st_size if shot.exists() else 0} bytes")
        return done.returncode


if __name__ == "__main__":
    sys.exit(main())
