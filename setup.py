"""Build the interface along with the package: wheel and source package carry it. The rest is in pyproject.toml."""

from __future__ import annotations

import shutil
import subprocess
from pathlib import Path

from setuptools import setup
from setuptools.command.build_py import build_py
from setuptools.command.sdist import sdist

ROOT = Path(__file__).parent
WEB, BUILT = ROOT / "web", ROOT / "src" / "vessel" / "web" / "index.html"


def build_interface() -> None:
    """Build the interface from its sources where they are; a source package brings it built."""
    if not (WEB / "package.json").is_file():
        if not BUILT.is_file():
            raise SystemExit("The built interface is missing, and so are its sources.")
        return
    npm = shutil.which("npm")
    if npm is None:
        raise SystemExit("Building Vessel needs Node.js 20 with npm.")
    if not (WEB / "node_modules").is_dir():
        subprocess.run([npm, "ci", "--no-audit", "--no-fund", "--silent"], cwd=WEB, check=True)
    subprocess.run([npm, "run", "--silent", "build"], cwd=WEB, check=True)


class BuildPy(build_py):
    """Build the interface before the package; not for an editable install, which serves what is there."""

    def run(self) -> None:
        """Run the command."""
        if not self.editable_mode:
            build_interface()
        super().run()


class Sdist(sdist):
    """Build the interface before the source package."""

    def run(self) -> None:
        """Run the command."""
        build_interface()
        super().run()


setup(cmdclass={"build_py": BuildPy, "sdist": Sdist})
