"""What a timer shows."""


def clock_said(seconds: float) -> str:
    """Return what a timer shows: minutes and seconds, rounded up; over it counts on with a plus."""
    whole = int(-(-seconds // 1)) if seconds > 0 else int(-seconds)
    sign = "" if seconds > 0 else "+"
    return f"{sign}{whole // 60}:{whole % 60:02d}"
