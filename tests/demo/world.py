"""The made-up world, made once a process, and by none that does not ask for it."""

from functools import cache

from hearth_yield.demo.world import build_world

world = cache(build_world)
