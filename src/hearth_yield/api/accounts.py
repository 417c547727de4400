"""The accounts of the household, and the currency in which sums stand."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from hearth_yield.actions import keep_entries
from hearth_yield.actions.read_holdings import lots_to_choose
from hearth_yield.core.household.amounts import minor_digits
from hearth_yield.core.household.entries import Account, CostMethod
from hearth_yield.store import ledger

from .answer import wire
from .context import Here, Id, When
from .ledger import EntryMade, Short, shares_text
from .schemas import Problem

router = APIRouter(prefix="/api", responses={422: {"model": Problem}, 404: {"model": Problem}})


class AccountIn(BaseModel):
    name: Annotated[str, Field(max_length=1000)]
    currency: Annotated[str, Field(max_length=100)]
    sheltered: bool = False
    method: Literal["fifo", "average"] = "fifo"
    keeps_cash: bool = False
    entered_from: date | None = None
    closed_on: date | None = None

    def account(self, id: int = 0) -> Account:
        return Account(id=id, **(self.model_dump() | {"method": CostMethod(self.method)}))


class HomeIn(BaseModel):
    currency: Annotated[str, Field(max_length=20)]


@router.put("/home-currency", status_code=204)
def set_home(here: Here, said: HomeIn) -> None:
    """The currency in which sums stand."""
    keep_entries.set_home(here.cache, said.currency)


@router.post("/accounts", status_code=201, responses={409: {"model": Problem}})
def add_account(here: Here, said: AccountIn) -> EntryMade:
    return EntryMade(id=keep_entries.add_account(here.cache, said.account(), here.now()))


@router.put("/accounts/{id}", status_code=204, responses={409: {"model": Problem}})
def change_account(here: Here, id: Id, said: AccountIn) -> None:
    keep_entries.change_account(here.cache, said.account(id))


@router.delete("/accounts/{id}", status_code=204, responses={409: {"model": Problem}})
def delete_account(here: Here, id: Id) -> None:
    """One in which nothing is entered."""
    keep_entries.delete_account(here.cache, id, here.now())


@router.post("/accounts/{id}/restore", status_code=204)
def put_back_account(here: Here, id: Id) -> None:
    keep_entries.delete_account(here.cache, id, None)


@wire
class LotToChooseOut:
    """shares: of the day that is asked about, to the last digit; cost_a_share: in the payer's
    currency."""

    day: date
    dated: bool
    shares: str
    cost_a_share: float | None


@router.get("/accounts/{id}/lots")
def lots(
    here: Here,
    when: When,
    id: Id,
    symbol: Short,
    day: date,
    exchange: Short = "",
    without: int | None = None,
) -> list[LotToChooseOut]:
    """Lots that a sale or a transfer of a day can take. without: an entry that is changed."""
    found = lots_to_choose(
        here.cache, (id, (exchange, symbol)), day, when.today, when.edition, without
    )
    with here.database.read() as connection:
        own = ledger.get_account(connection, id).currency
        key = (exchange, symbol)
        currency = ledger.called(connection, [key]).get(key, ("", own))[1]
    return [
        LotToChooseOut(
            day=lot.day,
            dated=lot.dated,
            shares=shares_text(lot.shares),
            cost_a_share=lot.cost_a_share(minor_digits(currency)),
        )
        for lot in found
    ]
