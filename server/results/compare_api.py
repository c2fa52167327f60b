"""Tests against each other over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from ninja import Query, Router
from pydantic import Field

from limpet.figures.parts import plain
from limpet.judge import Question
from limpet.judge.along import Arising
from limpet.judge.answer import Change, Comparison
from limpet.judge.compare import MOST_RUNS
from limpet.judge.offers import Offer
from limpet.judge.pairs import At, Pair
from limpet.judge.terms import SideTerms, Terms, TripMade
from server.results.comparing import compared, offered
from server.results.schemas import TestRow, row_of
from server.wire.derived import Derived, derived
from server.wire.owned import owner_of
from server.wire.problems import Problem
from server.wire.reader import reader_units
from server.wire.schema import Schema

router = Router(tags=["results"])


@derived(Change)
class ChangeOut(Derived):
    """What setting one condition right changed."""


@derived(At)
class AtOut(Derived):
    """What stood at a place in one ride."""


@derived(Pair)
class PairOut(Derived):
    """The same place in both rides."""


@derived(Arising)
class ArisingOut(Derived):
    """Where along the way a difference arises."""


@derived(TripMade)
class TripMadeOut(Derived):
    """The chance that each side makes a way."""


@derived(SideTerms)
class SideTermsOut(Derived):
    """How far a side goes."""


@derived(Terms)
class TermsOut(Derived):
    """Both sides in a rider's terms."""


class OfferOut(Schema):
    """Two sides of tests that can tell what is asked, named in the reader's units."""

    first: list[str]
    second: list[str]
    first_name: str
    second_name: str
    smallest_seen: float

    @staticmethod
    def of(offer: Offer) -> OfferOut:
        """An offer as it goes out."""
        one, two = offer.named(reader_units())
        return OfferOut(
            first=list(offer.first),
            second=list(offer.second),
            first_name=one,
            second_name=two,
            smallest_seen=offer.smallest_seen,
        )


@derived(Comparison)
class ComparisonOut(Derived):
    """Two tests, or two groups, against each other; `tests` are the rows of all of them."""

    tests: list[TestRow]
    #: None where a test tells no range.
    terms: TermsOut | None


class SidesIn(Schema):
    """The tests of both sides, by their ids."""

    first: list[UUID] = Field(default=[], max_length=MOST_RUNS)
    second: list[UUID] = Field(default=[], max_length=MOST_RUNS)
    question: Question | None = None


@router.get("", operation_id="compareTests", response={200: ComparisonOut, 404: Problem})
def compare_tests(request: HttpRequest, sides: Query[SidesIn]) -> dict[str, object]:
    """Which side uses less, by how much, and whether it is shown."""
    answer, terms, tests = compared(owner_of(request), sides.first, sides.second, sides.question)
    told = {name: plain(getattr(answer, name)) for name in Comparison.__dataclass_fields__}
    return {
        **told,
        "tests": [row_of(test) for test in tests],
        "terms": None if terms is None else plain(terms),
    }


@router.get("/offers", operation_id="offerTests", response=list[OfferOut])
def offer_tests(request: HttpRequest, question: Question) -> list[OfferOut]:
    """Which tests can tell what is asked, those that would show least first."""
    return [OfferOut.of(offer) for offer in offered(owner_of(request), question)]
