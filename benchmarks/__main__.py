"""Run the benchmarks: ``python -m benchmarks [fidelity] [window] [start] [nest] [hostile]``, all of them by default."""

import sys

from benchmarks import fidelity, hostile, nest, start, window

ALL = {"start": start.run, "window": window.run, "nest": nest.run, "hostile": hostile.run, "fidelity": fidelity.run}


def main() -> None:
    """Run those that are named."""
    for name in sys.argv[1:] or ALL:
        print(f"== {name}: {(ALL[name].__doc__ or '').strip().splitlines()[0]}", flush=True)
        ALL[name]()


if __name__ == "__main__":
    main()
