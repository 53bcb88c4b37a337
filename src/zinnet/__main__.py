"""``python -m zinnet`` is the same as the command ``zinnet``."""

import sys

if __name__ == "__main__":
    if not sys.flags.safe_path and sys.path:
        del sys.path[0]  # the folder that it is started in holds no code of ours
    from zinnet.cli import main

    main()
