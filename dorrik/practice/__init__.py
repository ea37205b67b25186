"""Simulated homes whose faults are known because we put them there, and the instrument that measures them.

Uses the core only. A home is described (`describe`) or drawn from a seed (`random_home`), brought into a state
(`site`), measured (`meter`) and inspected (`visit`); `families` and `home_families` put faults in, `accuracy` counts
what is found.
"""

import os

# The networks have a few hundred nodes: threads cost more than they bring. It has to be said before numpy is loaded.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
