"""An account as its rider sees it: where it is signed in, how much it keeps, and its end."""

from __future__ import annotations

from dataclasses import asdict
from uuid import UUID

from django.http import HttpRequest
from ninja import Router, Status

from server.accounts import services, sessions
from server.accounts.api import PASSWORDS, SIGN_INS
from server.accounts.models import SignedIn
from server.accounts.schemas import AccountOut, CurrentIn, QuotaOut, signed_in_of
from server.logbook.quotas import used_by
from server.removed import count_removed, purge_own
from server.wire.owned import owner_of
from server.wire.problems import Problem

router = Router(tags=["account"])


@router.get("", operation_id="getAccount", response=AccountOut)
def get_account(request: HttpRequest) -> AccountOut:
    """Where the account is signed in, how much it keeps of what has a limit, and whether it goes."""
    user = owner_of(request)
    here = request.session.session_key
    return AccountOut(
        username=user.get_username(),
        since=user.date_joined,
        demo=services.is_demo(user),
        # Of the demo, which is everybody's, nobody is told who else is there.
        sessions=[
            signed_in_of(row, here)
            for row in sessions.signed_in(user)
            if row.session_key == here or not services.is_demo(user)
        ],
        kept=[QuotaOut.model_validate(asdict(quota)) for quota in used_by(user)],
        removed=count_removed(user),
        goes_at=services.goes_at(user),
    )


@router.delete(
    "/sessions/{session_id}",
    operation_id="signOutThere",
    response={204: None, 403: Problem, 404: Problem},
)
def sign_out_there(request: HttpRequest, session_id: UUID) -> Status[None]:
    """End one session of the account."""
    user = owner_of(request)
    if services.is_demo(user):
        raise SignedIn.DoesNotExist
    sessions.sign_out_there(user, session_id)
    return Status(204, None)


@router.post("/told", operation_id="toldOfDevices", response={204: None})
def told_of_devices(request: HttpRequest) -> Status[None]:
    """The account has read which devices are new."""
    sessions.tell(owner_of(request))
    return Status(204, None)


@router.post(
    "/leaving",
    operation_id="leaveAccount",
    response={200: AccountOut, 422: Problem, 429: Problem},
    throttle=[SIGN_INS, PASSWORDS],
)
def leave_account(request: HttpRequest, payload: CurrentIn) -> AccountOut:
    """Have the account deleted in a week with all that is its own; it is signed out everywhere else."""
    services.leave(request, owner_of(request), payload.current)
    return get_account(request)


@router.delete("/leaving", operation_id="keepAccount", response=AccountOut)
def keep_account(request: HttpRequest) -> AccountOut:
    """Keep the account after all."""
    services.stay(owner_of(request))
    return get_account(request)


@router.delete("/removed", operation_id="emptyRemoved", response=AccountOut)
def empty_removed(request: HttpRequest) -> AccountOut:
    """Delete for good what was removed: nothing of it can be had back, and it counts no more."""
    purge_own(owner_of(request))
    return get_account(request)
