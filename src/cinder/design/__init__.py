"""The judgement: a Job becomes a Design, one module per decision, in working order."""

from cinder.design.chain import design
from cinder.design.headline import Effect, effect
from cinder.design.result import Design
from cinder.design.working import working
from cinder.design.working_parts import Working

__all__ = ["Design", "Effect", "Working", "design", "effect", "working"]
