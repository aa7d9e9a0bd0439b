"""Vessel: plan, prove, trace and record the locating of buried lines."""

import os

# A site's matrices have a few hundred rows: handing them to several BLAS threads costs more than it gains, and requests
# are answered side by side anyway. Takes effect if nothing imported NumPy before; what the environment says goes first.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

__version__ = "0.1.0"
