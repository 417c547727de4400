"""The sixty payers of the made-up world. docs/demo-world.md says which situation each is for."""

from .builders import BUILDERS
from .households import HOUSEHOLDS
from .lenders import LENDERS
from .mainland import MAINLAND

CAST = (*HOUSEHOLDS, *BUILDERS, *LENDERS, *MAINLAND)
