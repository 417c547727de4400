"""Arrays of days and of numbers."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

Days = npt.NDArray[np.datetime64]
Floats = npt.NDArray[np.float64]
Flags = npt.NDArray[np.bool_]
