"""Tables of what a person owns: trades, positions and dividends received. They are none of a
payer's facts, whatever day and price stand in them."""

from __future__ import annotations

from collections.abc import Sequence

from .headings import meaning, plain
from .reader import NOT_KEPT

ROLES = {
    "quantity": (
        *("quantity", "qty", "no of shares", "number of shares", "units", "shares held", "shares"),
        *("anzahl", "stück", "stueck", "stücke", "nominal", "quantité", "quantite", "nombre"),
        *("cantidad", "títulos", "titulos", "quantità", "quantita", "aantal", "antal"),
    ),
    "action": (
        *("type", "action", "transaction", "transaction type", "trade type", "side", "buy/sell"),
        *(
            "kind",
            "entry",
            "event",
            "b/s",
            "order",
            "activity",
            "art",
            "typ",
            "vorgang",
            "transaktion",
            "geschäft",
            "sens",
        ),
        *("opération", "operation", "tipo", "operación", "operacion", "operazione", "soort"),
    ),
    "price": (
        *("price", "unit price", "trade price", "execution price", "share price", "kurs", "preis"),
        *("prix", "cours", "precio", "prezzo", "koers", "kurs je stück"),
    ),
    "amount": (
        *("amount", "total", "total amount", "consideration", "proceeds", "net amount", "betrag"),
        *("gross amount", "montant", "importe", "importo", "bedrag", "gesamt", "cash"),
    ),
    "fees": (
        *("commission", "commissions", "fee", "fees", "costs", "brokerage", "stamp duty"),
        *("gebühr", "gebühren", "provision", "courtage", "frais", "comisión", "commissioni"),
        *("kosten", "spesen"),
    ),
    "cost": (
        *("average cost", "avg cost", "average price", "avg price", "cost basis", "book cost"),
        *("cost", "cost price", "purchase price", "unit cost", "einstandskurs", "einstand"),
        *("kaufkurs", "prix de revient", "pru", "coste medio", "prezzo medio", "gak"),
    ),
    "value": (
        *("market value", "value", "current value", "position value", "kurswert", "wert"),
        *("marktwert", "valeur", "valorisation", "valor", "valore", "waarde", "gain", "p/l"),
        *("annual income", "yearly income", "income"),
        *("unrealised gain", "unrealized gain", "profit", "gain/loss", "profit/loss"),
    ),
    "tax": (
        *("tax", "tax withheld", "withholding tax", "withheld tax", "wht", "quellensteuer"),
        *("withholding", "withheld", "tax deducted", "foreign tax"),
        *("steuer", "retenue", "retención", "ritenuta", "bronbelasting", "retenue à la source"),
    ),
    "account": (
        *("debit", "credit", "money in", "money out", "paid in", "paid out", "withdrawal"),
        *("deposit", "soll", "haben", "débit", "crédit", "debe", "haber", "dare", "avere"),
    ),
    "balance": ("balance", "saldo", "solde", "kontostand", "running balance"),
    "paid": (
        *("gross", "net", "gross amount", "net amount", "gross dividend", "net dividend"),
        *("dividend received", "received", "brutto", "netto", "brut", "bruto", "neto", "lordo"),
        *("bruttobetrag", "nettobetrag", "montant brut", "montant net"),
    ),
}
"""Plain headings by what they say of an entry of one's own."""
_ROLES_OF: dict[str, set[str]] = {}
for _role, _words in ROLES.items():
    for _word in _words:
        _ROLES_OF.setdefault(plain(_word), set()).add(_role)


def _roles(headings: Sequence[str]) -> set[str]:
    return {r for h in headings for r in _ROLES_OF.get(plain(h), ())}


def _pays(headings: Sequence[str]) -> bool:
    """Whether a list tells days on which something was paid, or names dividends."""
    meant = {m.target for h in headings if (m := meaning("dividends", h))}
    return "pay_date" in meant or any("divid" in plain(h) for h in headings)


def may_be_declared(headings: Sequence[str]) -> bool:
    """Whether a list of dividends with tax may be what a payer declared a share, before and after
    tax: it says when shares went without them, and of no shares that somebody holds."""
    ex_dates = any((m := meaning("dividends", h)) and m.target == "ex_date" for h in headings)
    return ex_dates and "quantity" not in _roles(headings)


def owned(headings: Sequence[str]) -> str | None:
    """What a list with these headings is, where it is of what a person owns; None for any other."""
    roles = _roles(headings)
    if {"account", "balance"} <= roles:
        return f"a statement of an account, {NOT_KEPT}"
    if "quantity" in roles and {"price", "amount"} & roles and {"action", "fees"} & roles:
        return f"a table of trades, {NOT_KEPT}"
    counted = "quantity" in roles and {"paid", "value"} & roles and _pays(headings)
    if counted or ("tax" in roles and "paid" in roles):
        return f"a table of dividends received, {NOT_KEPT}"
    if "quantity" in roles and {"cost", "value"} & roles:
        return f"a table of positions, {NOT_KEPT}"
    return None
