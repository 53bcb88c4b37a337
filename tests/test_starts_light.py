"""What is not needed for the first picture or the answer is not imported: the window and the commands start at once."""

import json
import subprocess
import sys

import pytest

from tests.helpers import run_command
from zinnet.cli.group import COMMANDS, made
from zinnet.ui.warm_up import TO_GO_ON, TO_OPEN

HEAVY = {
    *("numpy", "shapely", "pydantic", "scipy", "cv2", "ortools", "sqlalchemy", "reportlab", "ezdxf", "fontTools"),
    *("PIL", "serial", "spyrrow", "coloraide", "alembic"),
}
WINDOW = """
import json, sys
from zinnet.ui.application import make_application
from zinnet.ui.session import Session
from zinnet.ui.window import MainWindow
app = make_application()
session = Session()
window = MainWindow(session)
window.show()
app.processEvents()
assert window.grab().width() > 0
print(json.dumps(sorted({name.split(".")[0] for name in sys.modules})))
session.close()
"""
COMMAND = """
import json, sys
from zinnet.cli import main
sys.argv = ["zinnet", *sys.argv[1:]]
try:
    main()
except SystemExit as ended:
    assert not ended.code
print(json.dumps(sorted({name.split(".")[0] for name in sys.modules})))
"""


def imported(code, *args, tmp_path):
    """Return the top names of all that a program imported."""
    environment = {"QT_QPA_PLATFORM": "offscreen", "HOME": str(tmp_path), "PATH": "/usr/bin:/bin"}
    done = subprocess.run(
        [sys.executable, "-c", code, *args], env=environment, capture_output=True, text=True, check=True
    )
    return set(json.loads(done.stdout.splitlines()[-1]))


def test_the_window_is_up_before_anything_is_imported_that_derives_a_job(tmp_path):
    assert imported(WINDOW, tmp_path=tmp_path) & HEAVY == set()


@pytest.mark.parametrize(
    ("args", "needs"), [(("--help",), set()), (("checks",), {"pydantic"}), (("stock", "--help"), {"pydantic"})]
)
def test_a_command_imports_what_it_needs(args, needs, tmp_path):
    assert imported(COMMAND, *args, tmp_path=tmp_path) & {*HEAVY, "PySide6"} == needs


@pytest.mark.parametrize("name", COMMANDS)
def test_the_list_of_commands_says_of_each_what_it_says_of_itself(name):
    assert " ".join((made(name).help or "").split("\n\n")[0].split()) == COMMANDS[name][1]


def test_the_list_of_commands_names_all_of_them():
    said = run_command("--help").stdout
    assert [name for name in COMMANDS if f"\n  {name} " not in said] == []


def test_nothing_that_uses_qt_is_imported_in_a_thread_beside_the_window(tmp_path):
    code = "import json, sys\nfrom importlib import import_module\n[import_module(one) for one in sys.argv[1:]]\n"
    code += 'print(json.dumps(sorted({name.split(".")[0] for name in sys.modules})))'
    assert "PySide6" not in imported(code, *TO_OPEN, *TO_GO_ON, tmp_path=tmp_path)
