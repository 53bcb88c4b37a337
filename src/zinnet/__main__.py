"""``python -m zinnet`` is the same as the command ``zinnet``."""

from zinnet.cli import main

if __name__ == "__main__":
    main()
