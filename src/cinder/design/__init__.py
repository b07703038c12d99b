"""The judgement: a Job becomes a Design, one module per decision, in working order."""

from cinder.design.effect import Effect, effect
from cinder.design.explained import Working
from cinder.design.judgement import design
from cinder.design.result import Design
from cinder.design.working import working

__all__ = ["Design", "Effect", "Working", "design", "effect", "working"]
