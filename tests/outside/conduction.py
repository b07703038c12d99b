"""Two-dimensional heat conduction by finite elements (scikit-fem): the route the tests check formulas against.

Nothing here knows our code: quadrilaterals on a tensor grid, Robin boundaries h (T_air - T), conductivity by cell.
"""

from __future__ import annotations

import numpy as np
from skfem import Basis, BilinearForm, ElementQuad0, ElementQuad1, FacetBasis, LinearForm, MeshQuad, asm, solve
from skfem.helpers import dot, grad


def graded(*pieces):
    """Grid lines through pieces (from, to, cells, ratio): cells grow by `ratio` along each."""
    lines = []
    for start, end, cells, ratio in pieces:
        steps = ratio ** np.arange(cells) if ratio != 1 else np.ones(cells)
        lines.append(start + np.concatenate([[0.0], np.cumsum(steps)]) / steps.sum() * (end - start))
    return np.unique(np.round(np.concatenate(lines), 9))


class Field:
    """A solved temperature field; `heat_w_m` gives the heat that enters through a boundary, per metre of depth."""

    def __init__(self, mesh, conductivity, boundaries):
        """`conductivity(x, y)` per cell; `boundaries` {name: (facets, h, air temperature)}."""
        self.mesh = mesh
        basis = Basis(mesh, ElementQuad1())
        middle = mesh.p[:, mesh.t].mean(axis=1)
        k = conductivity(*middle)

        @BilinearForm
        def stiffness(u, v, w):
            return w["k"] * dot(grad(u), grad(v))

        matrix = asm(stiffness, basis, k=basis.with_element(ElementQuad0()).interpolate(k))
        load = np.zeros(basis.N)
        self.sides = {}
        for name, (facets, h, air) in boundaries.items():
            edge = FacetBasis(mesh, ElementQuad1(), facets=facets)
            matrix = matrix + asm(BilinearForm(lambda u, v, w, h=h: h * u * v), edge)
            load = load + asm(LinearForm(lambda v, w, h=h, air=air: h * air * v), edge)
            self.sides[name] = (edge, h, air)
        self.temperature = solve(matrix, load)

    def heat_w_m(self, name):
        edge, h, air = self.sides[name]
        flow = LinearForm(lambda v, w: h * (air - w["t"]) * v)
        return float(asm(flow, edge, t=edge.interpolate(self.temperature)).sum())


def rectangle(x, y, hole=None):
    """A mesh on grid lines, with the cells of `hole(x, y)` taken out."""
    mesh = MeshQuad.init_tensor(x, y)
    if hole is not None:
        middle = mesh.p[:, mesh.t].mean(axis=1)
        mesh = mesh.remove_elements(np.nonzero(hole(*middle))[0])
    return mesh


def where(mesh, condition):
    """Boundary facets whose middle fulfils a condition on (x, y)."""
    return mesh.facets_satisfying(lambda p: condition(p[0], p[1]), boundaries_only=True)
