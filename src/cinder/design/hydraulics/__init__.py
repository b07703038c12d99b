"""Pipes, pump and the water that stays open."""
