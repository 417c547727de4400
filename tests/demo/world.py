"""The made-up world, made once a process."""

from hearth_yield.demo.world import build_world

WORLD = build_world()
