"""Settings shared by all tests: generated cases are the same on every run and have no clock."""

from hypothesis import settings

settings.register_profile("eskel", deadline=None, derandomize=True, max_examples=60)
settings.load_profile("eskel")
