"""The offer: priced variants, work by task, permissions, payments."""

from cinder.handover.offer.decide import Laid, judge, named
from cinder.handover.offer.result import OfferFound, OfferVariant

__all__ = ["Laid", "OfferFound", "OfferVariant", "judge", "named"]
