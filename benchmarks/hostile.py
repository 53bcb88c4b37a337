"""How long files from strangers are looked at before there is an answer."""

import subprocess
import sys
import tempfile
import time
from pathlib import Path

NS = 'xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000"'


def samples() -> dict[str, str]:
    """Return each hostile or huge file by its name."""
    few, many = (
        "".join(f'<rect x="{k % 997}" y="{k * 7 % 991}" width="3" height="4" fill="#d62828"/>' for k in range(count))
        for count in (4_900, 170_000)
    )
    zigzag = "M0 0" + "".join(f"L{k * 7919 % 1000} {k * 104729 % 1000}" for k in range(1, 60_000))
    grid = "M0 0" + "".join(f"L{k % 1000} {k // 1000}" for k in range(1, 149_000))
    shapes = "".join(
        f'<circle cx="{k * 37 % 1000}" cy="{k * 61 % 1000}" r="{5 + k % 60}" fill="#{k * 99991 % 0xFFFFFF:06x}"/>'
        for k in range(500)
    )
    return {
        "2 million points": f'<svg {NS}><path d="M0 0{"L1 1 2 3" * 1_000_000}"/></svg>',
        "10 MB of small shapes": f"<svg {NS}>{many}</svg>",
        "4 900 small shapes": f"<svg {NS}>{few}</svg>",
        "60 000 crossing lines": f'<svg {NS}><path d="{zigzag}"/></svg>',
        "149 000 points in rows": f'<svg {NS}><path d="{grid}"/></svg>',
        "10 MB of comment": f'<svg {NS}><!--{"moth " * 2_000_000}--><rect width="9" height="9"/></svg>',
        "500 circles in 500 colours": f"<svg {NS}>{shapes}</svg>",
        "entity bomb": '<!DOCTYPE a [<!ENTITY b "bb"><!ENTITY c "&b;&b;">]><svg>&c;</svg>',
        "not a number": f'<svg {NS}><path d="M NaN NaN L 5 5"/><rect x="NaN" width="Infinity" height="5"/></svg>',
        "no size": '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 0 0"><rect width="5" height="5"/></svg>',
        "empty": "",
        "only a picture": f'<svg {NS}><image href="x.png" width="50" height="50"/></svg>',
    }


def run() -> None:
    """Seconds until each file is split or refused with a sentence."""
    folder = Path(tempfile.mkdtemp())
    for name, text in samples().items():
        path = folder / "file.svg"
        path.write_text(text)
        begun = time.perf_counter()
        done = subprocess.run(
            [sys.executable, "-m", "zinnet", "split", str(path), "--out", str(folder / "out")],
            capture_output=True,
            text=True,
        )
        took = time.perf_counter() - begun
        print(f"{took:5.1f} s  exit {done.returncode}  {name}: {done.stderr.strip()[:130] or 'split'}", flush=True)
