"""How many examples a law is tried with: few in ``make test``, many in ``make laws``."""

from hypothesis import HealthCheck, settings

# These machines are noisy: no test has a time limit. A gate that tried other examples each time
# would fail by chance; what chance finds is looked for by `make laws`.
GATE = 25
settings.register_profile("gate", deadline=None, max_examples=GATE, derandomize=True)
settings.register_profile(
    "laws", deadline=None, max_examples=500, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("gate")


def share(part, *suppressed):
    """Settings for an example that is dear: so many for each that others have."""
    # Those of the profile hold, too: a busy machine is no fault of an example.
    health = (*settings().suppress_health_check, *suppressed)
    count = max(round(settings().max_examples * part), 1)
    return settings(max_examples=count, suppress_health_check=health)


def every(few, many):
    """The step with which a list of cases is gone through: a large one in ``make test``."""
    return few if settings().max_examples == GATE else many
