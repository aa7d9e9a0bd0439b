"""The array types of core, once: what a function takes and returns is said by them and by shapes in its docstring."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Complex = NDArray[np.complex128]
Index = NDArray[np.intp]
Mask = NDArray[np.bool_]
Codes = NDArray[np.int8]
