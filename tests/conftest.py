from hypothesis import settings

# These machines are noisy: no test has a time limit.
settings.register_profile("dreieck", deadline=None)
settings.load_profile("dreieck")
