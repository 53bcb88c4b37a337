"""The stand-in press: a plate that heats and cools like a real one, for practice and for tests."""
