"""What is offered and handed over: the offer's terms, own papers, serial numbers, questions, the review by a second person."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AfterValidator, Field, model_validator

from cinder.model.base import Id, LibraryKey, Minor, Note, Part, Position, Share, Title
from cinder.model.days import Day
from cinder.model.fire_up import Instant


class TaskSaid(Part):
    """What a person says of a task of the labour table in this job: its hours for the whole task, or that it falls away."""

    hours: Annotated[float, Field(ge=0, le=2000, allow_inf_nan=False)] | None = None
    falls_away: bool = False
    note: Note = ""


class OfferLine(Part):
    """A line of one's own: work or goods, priced; in every variant, or in one scheme's alone. Below nought: money off."""

    label: Title
    pos: Position = 0
    scheme: Id | None = None
    of: Literal["goods", "labour"] = "goods"
    minor: Annotated[float, Field(ge=-1e9, le=1e9, allow_inf_nan=False)] = 0.0


class TaxRule(Part):
    """A tax by share, of goods, of labour or of both."""

    label: Title
    pos: Position = 0
    share: Share
    of: Literal["all", "goods", "labour"] = "all"


class Payment(Part):
    """A step of payment, as a share of what is to be paid; the last step takes what is left."""

    pos: Position = 0
    when: Literal["order", "delivery", "start", "handover", "later"]
    share: Share


PermissionKind = Literal["grant", "planning", "network", "building", "landlord", "other"]


class Permission(Part):
    """A permission with its dates: whom to ask, whether before the work or after it, and what came of it."""

    kind: PermissionKind = "other"
    label: Title = ""
    pos: Position = 0
    when: Literal["before", "after"] = "before"
    by: Title = ""
    """Who asks for it."""
    state: Literal["open", "asked", "given", "refused", "not needed"] = "open"
    asked: Day | None = None
    decided: Day | None = None
    number: Title = ""

    @model_validator(mode="after")
    def _in_order(self) -> Permission:
        if self.asked is not None and self.decided is not None and self.decided < self.asked:
            raise ValueError("a permission is decided after it was asked for, or the same day")
        return self


def _whole(payments: dict[str, Payment]) -> dict[str, Payment]:
    if sum(one.share for one in payments.values()) > 1 + 1e-9:
        raise ValueError("the steps of payment come to more than the whole")
    return payments


class Offer(Part):
    """How the offer is made. `variants`: the schemes in it, the recommended one first; none named: the scheme on show."""

    number: Title = ""
    variants: Annotated[list[Id], Field(max_length=6)] = []
    valid_days: Annotated[int, Field(ge=1, le=730)] = 30
    prices: Literal["fitted", "goods"] = "fitted"
    """Whether prices of parts and emitters hold the work of fitting them, or are of goods alone."""
    reserve_share: Share = 0.05
    """For what is found when floors are open."""
    margin_share: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.0
    """On goods, beside what the prices hold."""
    access: Literal["easy", "usual", "hard"] = "usual"
    crew: Annotated[int, Field(ge=1, le=12)] = 2
    travel_h_per_day: Annotated[float, Field(ge=0, le=12, allow_inf_nan=False)] = 0.5
    day_h: Annotated[float, Field(ge=2, le=14, allow_inf_nan=False)] = 7.5
    heaters: Annotated[int, Field(ge=0, le=40)] | None = None
    """Lent for the days without heat; one for every two heated rooms where nobody has said."""
    heater_minor_per_day: Minor = 600.0
    tasks: Annotated[dict[LibraryKey, TaskSaid], Field(max_length=60)] = {}
    lines: Annotated[dict[Id, OfferLine], Field(max_length=100)] = {}
    taxes: Annotated[dict[Id, TaxRule], Field(max_length=10)] = {}
    payments: Annotated[dict[Id, Payment], Field(max_length=10), AfterValidator(_whole)] = {}
    permissions: Annotated[dict[Id, Permission], Field(max_length=40)] = {}
    terms: Note = ""


PaperKind = Literal[
    "electric certificate", "water certificate", "refrigerant certificate", "removed appliance", "permission", "network", "invoice", "manual",
    "plate", "registration", "insurance", "disposal", "delivery", "other",
]  # fmt: skip


class OwnPaper(Part):
    """A paper that is not made here: who gave it, its number and day, and the file where there is one."""

    kind: PaperKind = "other"
    label: Title = ""
    pos: Position = 0
    by: Title = ""
    number: Title = ""
    day: Day | None = None
    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")] | None = None
    """Of the file as it is kept."""
    file_name: Title = ""


class Plate(Part):
    """A thing with a serial number: where it is registered, by when, how long it is warranted."""

    label: Title
    pos: Position = 0
    serial: Title = ""
    fitted: Day | None = None
    register_within_days: Annotated[int, Field(ge=0, le=3650)] | None = None
    registered: Day | None = None
    registered_number: Title = ""
    warranty_months: Annotated[int, Field(ge=0, le=600)] | None = None
    insured: bool = False
    """Backed by an insurance of its own."""
    note: Note = ""


class Question(Part):
    text: Note
    pos: Position = 0
    by: Title = ""
    at: Instant | None = None
    answer: Note = ""
    answered_by: Title = ""


class Remark(Part):
    """A remark of the reviewer at what it concerns, and its answer."""

    pos: Position = 0
    where: Title
    """A figure of the ember bar, or a record of the pack, by its key."""
    text: Note
    at: Instant | None = None
    answer: Note = ""
    answered_by: Title = ""


def _same(one: str, other: str) -> bool:
    """One name, however it is dotted, spaced and cased."""
    first, second = ("".join(c for c in name.casefold() if c.isalnum()) for name in (one, other))
    return bool(first) and first == second


class Review(Part):
    """An independent look at the design by a second person: a typed name until there are accounts."""

    by: Title = ""
    at: Instant | None = None
    version: Annotated[int, Field(ge=0)] | None = None
    remarks: Annotated[dict[Id, Remark], Field(max_length=200)] = {}


class Handover(Part):
    """`not_needed`: why a record of the pack is not needed here, by its key."""

    customer: Title = ""
    designer: Title = ""
    contact: Title = ""
    """Whom the customer calls, as it stands on the papers."""
    handed_over: Day | None = None
    offer: Offer = Offer()
    papers: Annotated[dict[Id, OwnPaper], Field(max_length=300)] = {}
    plates: Annotated[dict[Id, Plate], Field(max_length=100)] = {}
    questions: Annotated[dict[Id, Question], Field(max_length=200)] = {}
    review: Review = Review()
    not_needed: Annotated[dict[LibraryKey, Note], Field(max_length=60)] = {}

    @model_validator(mode="after")
    def _by_another(self) -> Handover:
        if self.review.by.strip() and _same(self.review.by, self.designer):
            raise ValueError(
                f"the review is by a second person: {self.review.by.strip()!r} is the designer; another name is needed"
            )
        return self
