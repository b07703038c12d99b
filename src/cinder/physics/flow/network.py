"""A branching pipe tree: flows add up towards the root, losses add up towards the ends."""

from __future__ import annotations

from collections.abc import Mapping

from cinder.errors import PhysicsError


def downstream_sum(parents: Mapping[str, str | None], own: Mapping[str, float]) -> dict[str, float]:
    """Sum of `own` over each node and everything below it.

    Raises `PhysicsError` where the parents of a node that has something of its own run in a circle. Source: continuity.

    >>> downstream_sum({"a": None, "b": "a", "c": "a"}, {"b": 2.0, "c": 3.0})
    {'a': 5.0, 'b': 2.0, 'c': 3.0}
    """
    total = dict.fromkeys(parents, 0.0)
    for node, mine in own.items():
        for step in path_to_root(parents, node):
            total[step] += mine
    return total


def path_to_root(parents: Mapping[str, str | None], node: str) -> list[str]:
    """Node, its parent, … up to the root.

    >>> path_to_root({"a": None, "b": "a"}, "b")
    ['b', 'a']
    """
    path = [node]
    seen = {node}
    here = parents.get(node)
    while here is not None:
        if here in seen:
            raise PhysicsError("parents", node, "pipes run in a circle")
        seen.add(here)
        path.append(here)
        here = parents.get(here)
    return path
