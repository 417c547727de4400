"""Files as people have them, made up, each with the facts it must give.

A file is text, or a workbook said as sheets of rows. choices: answers that it cannot do without;
facts: rows it must give, by table, each told by some of its cells.
"""

from __future__ import annotations

import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date

import xlsxwriter

from hearth_yield.exchange.found.payers import Known
from tests.conftest import sample

PAYERS = [
    Known("ELV", "PNL", "Pennant Lamps", "TLL", 12),
    Known("ELV", "TRS", "Tallow & Reed Soapworks", "TLL", 12),
    Known("RKM", "BRNF", "Barnfield Orchards", "THK", 6),
]
Rows = Sequence[Sequence[object]]
LONG = sample(2_000, 20_000)


@dataclass(frozen=True, slots=True, kw_only=True)
class AsFound:
    name: str
    text: str = ""
    encoding: str = "utf-8"
    book: Mapping[str, Rows] = field(default_factory=dict)
    hidden: Sequence[str] = ()
    choices: Mapping[str, str] = field(default_factory=dict)
    facts: Mapping[str, Sequence[Mapping[str, str]]]
    count: Mapping[str, int] = field(default_factory=dict)

    @property
    def raw(self) -> bytes:
        return workbook(self.book, self.hidden) if self.book else self.text.encode(self.encoding)


def workbook(sheets: Mapping[str, Rows], hidden: Sequence[str] = ()) -> bytes:
    out = io.BytesIO()
    book = xlsxwriter.Workbook(out, {"in_memory": True})
    day = book.add_format({"num_format": "dd.mm.yyyy"})
    for name, rows in sheets.items():
        sheet = book.add_worksheet(name)
        for n, row in enumerate(rows):
            for m, cell in enumerate(row):
                if isinstance(cell, date):
                    sheet.write_datetime(n, m, cell, day)  # type: ignore[arg-type]
                elif isinstance(cell, str) and cell.startswith("="):
                    sheet.write_formula(n, m, cell, None, 7.5)
                elif cell is not None:
                    sheet.write(n, m, cell)
        if name in hidden:
            sheet.hide()
    book.close()
    return out.getvalue()


TODAY = "2026-06-30"


def stated(year: int, **lines: str) -> dict[str, str]:
    return {"period_end": f"{year}-12-31", **lines}


WIDE = [
    ["", "FY2023", "FY2024", "FY2025"],
    ["Net sales", 1200.5, 1300, 1400],
    ["Cost of sales", -700, -760, -800],
    ["Net income", 100.2, 110, 120],
    ["Cash from operations", 180, 190, 200],
    ["Capital expenditures", -50, -55, -60],
]
TURNED = stated(2025, revenue="1400", capital_expenditure="60", cost_of_revenue="800")

FILES = [
    AsFound(
        name="PNL pence.csv",
        text="Date,Price (GBX)\n2026-06-30,1250\n2026-06-29,1240.5\n",
        choices={"0.other_currency": "yes"},
        facts={"prices": [{"day": "2026-06-30", "close": "12.5"}, {"close": "12.405"}]},
    ),
    AsFound(
        name="PNL paid.csv",
        text="Ex/Eff Date,Cash Amount\n2026-05-12,9.00p\n2026-02-10,8.75p\n",
        facts={"dividends": [{"ex_date": "2026-05-12", "amount": "0.09"}, {"amount": "0.0875"}]},
    ),
    AsFound(
        name="PNL a share in pence.xlsx",
        book={
            "S": [
                ["TLL m", "FY2024", "FY2025"],
                ["Turnover", 131.2, 140],
                ["Profit attributable to shareholders", 10, 11],
                ["Diluted EPS (pence)", 12.5, 13],
                ["Distributions per share (pence)", 5, 5.2],
            ]
        },
        facts={
            "statements": [stated(2024, revenue="131.2", net_income="10", diluted_eps="0.125")],
            "dividends": [{"ex_date": "2025-12-31", "amount": "0.052"}],
        },
    ),
    AsFound(
        name="PNL crores.xlsx",
        book={
            "S": [
                ["In crores", "FY2024", "FY2025"],
                ["Revenue", "1,38,400", "1,41,250.5"],
                ["Net income", "12,400", "(1,100)"],
            ]
        },
        facts={"statements": [{"revenue": "1384000", "net_income": "124000", "unit": "million"}]},
    ),
    AsFound(
        name="PNL written out.csv",
        text="Item;FY2024;FY2025\nRevenue;US$1.2bn;US$1.3bn\nNet income;US$100m;US$110.5m\n"
        "Total assets;US$2bn;US$2.1bn\n",
        choices={"0.currency": "TLL"},
        facts={"statements": [stated(2025, revenue="1300000000", net_income="110500000")]},
    ),
    AsFound(
        name="PNL prices.csv",
        text="Date,Open,High,Low,Close,Volume\n2026-06-30,1,2,3,12.50,100\n2026-06-29,1,2,3,12.4,90\n",
        facts={"prices": [{"day": "2026-06-30", "close": "12.5", "volume": "100"}]},
        count={"prices": 2},
    ),
    AsFound(
        name="PNL us dates.csv",
        text='Date,Last Price\n06/30/2026,"1,234.50"\n06/29/2026,"1,230.10"\n',
        facts={"prices": [{"day": "2026-06-30", "close": "1234.5"}]},
    ),
    AsFound(
        name="Kurse_PNL.csv",
        text="Datum;Schlusskurs;Volumen\n30.06.2026;12,50;1.000\n29.06.2026;12,40;900\n",
        encoding="cp1252",
        facts={"prices": [{"day": "2026-06-30", "close": "12.5", "volume": "1000"}]},
    ),
    AsFound(
        name="cours PNL.csv",
        text="Date;Clôture\n30/06/2026;1 234,50\n13/05/2026;1 200,00\n",
        encoding="latin-1",
        facts={"prices": [{"day": "2026-05-13", "close": "1200"}]},
    ),
    AsFound(
        name="PNL precios.tsv",
        text="Fecha\tCierre\n30/06/2026\t12,50\n14/05/2026\t12,10\n",
        facts={"prices": [{"day": "2026-05-14", "close": "12.1"}]},
    ),
    AsFound(
        name="quotazioni PNL.csv",
        text="Data|Chiusura\n30/06/2026|12,50\n14/05/2026|12,10\n",
        facts={"prices": [{"day": "2026-06-30", "close": "12.5"}]},
    ),
    AsFound(
        name="koersen PNL.csv",
        text="Datum;Slotkoers\n30-06-2026;12,50\n14-05-2026;12,10\n",
        facts={"prices": [{"day": "2026-05-14", "close": "12.1"}]},
    ),
    AsFound(
        name="either way PNL.csv",
        text="Date,Close\n03/04/2026,12.5\n05/06/2026,12.4\n",
        choices={"dates": "month"},
        facts={"prices": [{"day": "2026-03-04", "close": "12.5"}]},
    ),
    AsFound(
        name="two readings PNL.csv",
        text='Date,Close\n2026-06-30,"1,234"\n2026-06-29,"1,230"\n',
        choices={"decimal": "."},
        facts={"prices": [{"day": "2026-06-30", "close": "1234"}]},
    ),
    AsFound(
        name="dividends TRS.csv",
        text="Ex-Date,Payment Date,Dividend,Type\n2026-06-11,2026-06-25,0.3106,Ordinary\n"
        "2026-03-11,2026-03-25,1.00,Special\nTotal,,1.3106,\n",
        facts={
            "dividends": [
                {"ex_date": "2026-06-11", "pay_date": "2026-06-25", "amount": "0.3106"},
                {"ex_date": "2026-03-11", "kind": "special"},
            ]
        },
        count={"dividends": 2},
    ),
    AsFound(
        name="Ausschüttungen.csv",
        text="Tallow & Reed Soapworks\n\nEx-Tag;Zahltag;Betrag\n11.06.2026;25.06.2026;0,31 TLL\n",
        facts={"dividends": [{"symbol": "TRS", "ex_date": "2026-06-11", "amount": "0.31"}]},
    ),
    AsFound(
        name="page.html",
        text="<html><body><h1>x</h1><table><caption>Pennant Lamps</caption>"
        "<tr><th>Ex-dividend date</th><th>Amount</th></tr>"
        "<tr><td>June 11, 2026</td><td>TLL&nbsp;0.31*</td></tr>"
        "<tr><td>March 11, 2026</td><td>TLL 0.30</td></tr></table></body></html>",
        facts={"dividends": [{"symbol": "PNL", "ex_date": "2026-06-11", "amount": "0.31"}]},
        count={"dividends": 2},
    ),
    AsFound(
        name="many payers.csv",
        text="Ticker,Date,Close\nPNL,2026-06-30,12.5\nTRS,2026-06-30,61.76\nZZZ,2026-06-30,1\n",
        facts={"prices": [{"symbol": "TRS", "close": "61.76"}]},
        count={"prices": 2},
    ),
    AsFound(
        name="weeks PNL.csv",
        text="Week,x\nDate,Close\n2026-W26,12.5\n2026-W25,12.4\n",
        facts={"prices": [{"day": "2026-06-26", "close": "12.5"}]},
    ),
    AsFound(
        name="compact PNL.csv",
        text="Date,Close\n20260630,12.5\n20260629,12.4\n",
        facts={"prices": [{"day": "2026-06-30", "close": "12.5"}]},
    ),
    AsFound(
        name="long PNL.csv",
        text="Date,Close\n"
        + "".join(
            f"{date.fromordinal(731000 + n).isoformat()},{10 + n / 1000:.2f}\n" for n in range(LONG)
        ),
        facts={"prices": [{"day": date.fromordinal(731000).isoformat(), "close": "10"}]},
        count={"prices": LONG},
    ),
    AsFound(
        name="PNL.xlsx",
        book={"Income": [["Pennant Lamps"], ["TLL in millions"], *WIDE]},
        facts={"statements": [TURNED]},
        count={"statements": 3},
    ),
    AsFound(
        name="a sheet each.xlsx",
        book={
            "PNL": [["Currency: TLL, in thousands"], *WIDE],
            "TRS": [["Currency: TLL, in thousands"], *WIDE],
            "notes": [["", "FY2024", "FY2025"], ["Revenue", 1, 2], ["Net income", 1, 2]],
        },
        hidden=["notes"],
        facts={"statements": [TURNED | {"symbol": "TRS"}, TURNED | {"symbol": "PNL"}]},
        count={"statements": 6},
    ),
    AsFound(
        name="down PNL.xlsx",
        book={
            "Data": [
                ["Year", "Revenue (m)", "Net income (m)", "Total assets (m)", "Diluted EPS"],
                [2024, 1300, 110, 2000, 1.12],
                [2025, 1400, 120, 2100, 1.25],
                ["Total", 2700, 230, None, None],
            ]
        },
        facts={"statements": [stated(2025, revenue="1400", diluted_eps="1.25", unit="million")]},
        count={"statements": 2},
    ),
    AsFound(
        name="no unit PNL.xlsx",
        book={"Data": WIDE},
        choices={"unit": "million"},
        facts={"statements": [TURNED]},
    ),
    AsFound(
        name="quarters PNL.xlsx",
        book={
            "Q": [
                ["in TLL millions", "Q1 2025", "Q2 2025", "Q3 2025A", "Q4 2025E"],
                ["Revenue", 300, 310, 320, 330],
                ["Net profit", 20, 21, 22, 23],
            ]
        },
        facts={
            "statements": [
                {"period_end": "2025-09-30", "span": "quarter", "revenue": "320"},
                {"period_end": "2025-03-31", "published_on": "2025-05-15"},
            ]
        },
        count={"statements": 3},
    ),
    AsFound(
        name="Barnfield Orchards.xlsx",
        book={
            "Accounts": [
                ["THK thousands"],
                ["", "FY2024", "FY2025"],
                ["Umsatzerlöse", 5000, 5200],
                ["Jahresüberschuss", 300, 320],
            ]
        },
        facts={"statements": [{"symbol": "BRNF", "period_end": "2025-06-30", "revenue": "5200"}]},
    ),
    AsFound(
        name="sections PNL.csv",
        text="Pennant Lamps (TLL m)\n\nItem,2023,2024,2025\nIncome statement,,,\nRevenue,1,2,3\n"
        "Net income,(1),–,0.5\n\nBalance sheet,,,\nTotal assets,10,11,12\nEquity,5,5,6\n"
        "1) restated,,,\n",
        facts={
            "statements": [
                stated(2025, revenue="3", net_income="0.5", total_assets="12"),
                stated(2023, net_income="-1"),
            ]
        },
        count={"statements": 3},
    ),
    AsFound(
        name="Jahresabschluss PNL.csv",
        text="in Mio. TLL;2024;2025\nUmsatzerlöse;1.300,5;1.400,0\nBetriebsergebnis;210,1;220,2\n"
        "Jahresüberschuss;110,0;120,0\nInvestitionen;-55,0;-60,0\nBilanzsumme;2.000,0;2.100,0\n",
        facts={
            "statements": [
                stated(2025, revenue="1400", ebit="220.2", capital_expenditure="60", unit="million")
            ]
        },
    ),
    AsFound(
        name="comptes PNL.csv",
        text="En milliers TLL;2024;2025\nChiffre d'affaires;1 300 500;1 400 000\n"
        "Résultat net;110 000,5;120 000,0\nCapitaux propres;900 000;950 000\n",
        facts={"statements": [stated(2025, revenue="1400000", unit="thousand")]},
    ),
    AsFound(
        name="formulas PNL.xlsx",
        book={
            "Prices": [["Date", "Close"], [date(2026, 6, 30), "=B3+1"], [date(2026, 6, 29), 6.5]]
        },
        facts={"prices": [{"day": "2026-06-30", "close": "7.5"}]},
    ),
    AsFound(
        name="two tables PNL.xlsx",
        book={
            "All": [
                ["Pennant Lamps, TLL"],
                ["Date", "Close"],
                [date(2026, 6, 30), 12.5],
                [date(2026, 6, 29), 12.4],
                [],
                ["Ex-date", "Dividend"],
                [date(2026, 6, 11), 0.31],
            ]
        },
        facts={"prices": [{"close": "12.5"}], "dividends": [{"amount": "0.31"}]},
        count={"prices": 2, "dividends": 1},
    ),
    AsFound(
        name="cpi by month.csv",
        text="TIME_PERIOD,OBS_VALUE\n2026-05,121.4\n2026-06,121.9\n",
        choices={"currency": "TLL"},
        facts={"series": [{"day": "2026-05-31", "value": "121.4"}]},
    ),
    AsFound(
        name="prijsindex.csv",
        text="Maand;Index\n2026-05-31;121,4\n2026-06-30;121,9\n",
        choices={"currency": "TLL"},
        facts={"series": [{"day": "2026-06-30", "value": "121.9"}]},
    ),
    AsFound(
        name="utf16 PNL.csv",
        text="Date\tClose\n2026-06-30\t12.5\n2026-06-29\t12.4\n",
        encoding="utf-16",
        facts={"prices": [{"day": "2026-06-30", "close": "12.5"}]},
    ),
    AsFound(
        name="percent PNL.xlsx",
        book={
            "Trust": [
                ["Pennant Lamps, TLL million"],
                ["", "FY2024", "FY2025"],
                ["Revenue", 10, 11],
                ["FFO", 5, 6],
                ["Occupancy", "95.5%", "96 %"],
            ]
        },
        facts={"statements": [stated(2025, ffo="6", occupancy="0.96")]},
    ),
    AsFound(
        name="BRNF down.csv",
        text="Year,Revenue,Net income\nTHK thousands,,\nFY2024,5000,300\nFY2025,5200,320\n",
        facts={"statements": [{"symbol": "BRNF", "period_end": "2025-06-30", "revenue": "5200"}]},
        count={"statements": 2},
    ),
    AsFound(
        name="with estimates PNL.xlsx",
        book={
            "Model": [
                ["Pennant Lamps", None, None, None, None],
                ["TLL million", "2024A", "2025A", "2026E", "2027E"],
                ["Revenue", 1300, 1400, 1480, 1550],
                ["Net income", 110, 120, 128, 137],
                ["EPS", 1.12, 1.25, 1.34, 1.44],
                ["DPS", 0.5, 0.54, 0.58, 0.62],
            ]
        },
        facts={
            "statements": [stated(2025, revenue="1400", diluted_eps="1.25")],
            "estimates": [
                {"fiscal_year": "2026", "measure": "eps", "mean": "1.34", "published_on": TODAY},
                {"fiscal_year": "2027", "measure": "revenue", "mean": "1550000000"},
                {"fiscal_year": "2027", "measure": "dps", "mean": "0.62"},
            ],
            "dividends": [{"ex_date": "2025-12-31", "amount": "0.54", "assumed": "ex_date"}],
        },
        count={"statements": 2, "estimates": 6, "dividends": 2},
    ),
    AsFound(
        name="yearly TRS.csv",
        text="Jahr;Dividende je Aktie\n2023;1,20\n2024;1,30\n2025;1,40\n",
        facts={
            "dividends": [
                {"ex_date": "2025-12-31", "amount": "1.4", "payments_per_year": "1"},
                {"ex_date": "2023-12-31", "amount": "1.2", "assumed": "ex_date"},
            ]
        },
        count={"dividends": 3},
    ),
    AsFound(
        name="closes of several.csv",
        text="Date,PNL,TRS,ZZZ\n2026-06-30,12.5,61.76,1\n2026-06-29,12.4,n/a,1\n",
        facts={"prices": [{"symbol": "PNL", "close": "12.4"}, {"symbol": "TRS", "close": "61.76"}]},
        count={"prices": 3},
    ),
    AsFound(
        name="watch list.csv",
        text="Ticker,Company,Exchange,Type,Country,Currency,Sector\n"
        "QQ,Quill & Quire,ELV,Property trust,Sundrey Isles,TLL,Offices\n"
        "BB,Bellow Bank,ELV,Bank,Sundrey Isles,TLL,Banks\n",
        facts={
            "payers": [
                {"symbol": "QQ", "kind": "property_trust", "name": "Quill & Quire"},
                {"symbol": "BB", "kind": "financial", "currency": "TLL"},
            ],
            "payer_notes": [{"symbol": "QQ", "field": "sector", "value": "Offices"}],
        },
        count={"payers": 2, "payer_notes": 2},
    ),
    AsFound(
        name="all payers.csv",
        text="TLL in millions\nTicker,Year,Revenue,Net income\nPNL,2024,1300,110\n"
        "PNL,2025,1400,120\nTRS,2025,900,80\n",
        facts={
            "statements": [
                stated(2025, symbol="TRS", revenue="900"),
                stated(2024, symbol="PNL", revenue="1300"),
            ]
        },
        count={"statements": 3},
    ),
    AsFound(
        name="quarter ends PNL.xlsx",
        book={
            "Q": [
                ["TLL in thousands"],
                ["", date(2025, 3, 31), date(2025, 6, 30), date(2025, 9, 30)],
                ["Revenue", 300, 310, 320],
                ["Net income", 20, 21, 22],
            ]
        },
        facts={
            "statements": [
                {"period_end": "2025-06-30", "span": "quarter", "published_on": "2025-08-14"}
            ]
        },
        count={"statements": 3},
    ),
    AsFound(
        name="half years PNL.csv",
        text="TLL in millions\n,31.12.2024,30.06.2025,31.12.2025\nRevenue,600,650,700\n"
        "Net income,50,55,60\n",
        choices={"span": "half"},
        facts={"statements": [{"period_end": "2025-06-30", "span": "half", "revenue": "650"}]},
        count={"statements": 3},
    ),
    AsFound(
        name="in words BRNF.csv",
        text="THK in thousands,,\n,Year ended 30 June 2024,Year ended 30 June 2025 (restated)\n"
        "Turnover,5000,5200\nProfit for the year,300,320\n",
        facts={"statements": [{"period_end": "2025-06-30", "revenue": "5200", "span": "year"}]},
        count={"statements": 2},
    ),
    AsFound(
        name="merged PNL.xlsx",
        book={
            "Q": [
                ["in TLL m", 2024, None, 2025, None],
                ["", "Q3", "Q4", "Q1", "Q2"],
                ["Revenue", 300, 310, 320, 330],
                ["Net income", 20, 21, 22, 23],
            ]
        },
        facts={
            "statements": [
                {"period_end": "2024-12-31", "revenue": "310"},
                {"period_end": "2025-06-30", "revenue": "330", "span": "quarter"},
            ]
        },
        count={"statements": 4},
    ),
    AsFound(
        name="crossed years BRNF.csv",
        text="in Tsd. THK;2023/24;2024/25\nUmsatz;5.000,0;5.200,5\nJahresüberschuss;300,0;320,0\n",
        facts={"statements": [{"period_end": "2025-06-30", "revenue": "5200.5"}]},
        count={"statements": 2},
    ),
    AsFound(
        name="shares apart PNL.csv",
        text='"(in thousands of TLL, except share and per share data)",,\n,2024,2025\n'
        "Revenue,1300,1400\nNet income,110,120\nDiluted shares,98000,97000\n"
        "Diluted EPS,1.12,1.24\n",
        facts={"statements": [stated(2025, diluted_shares="97", unit="thousand")]},
        count={"statements": 2},
    ),
    AsFound(
        name="own units PNL.csv",
        text="TLL in millions,,\n,2024,2025\nRevenue,1300,1400\nNet income,110,120\n"
        "Diluted shares (thousands),98000,97000\n",
        facts={"statements": [stated(2025, diluted_shares="97", revenue="1400")]},
        count={"statements": 2},
    ),
    AsFound(
        name="shares by earnings PNL.csv",
        text="TLL in millions,,\n,2024,2025\nNet income,110,120\nDiluted EPS,1.12,1.24\n"
        "Diluted shares,98000000,97000000\n",
        facts={"statements": [stated(2025, diluted_shares="97", net_income="120")]},
        count={"statements": 2},
    ),
    AsFound(
        name="pence PNL.csv",
        text="Ex-date,Dividend (pence)\n2026-06-11,31.06\n2026-03-11,30\n",
        facts={"dividends": [{"ex_date": "2026-06-11", "amount": "0.3106"}]},
        count={"dividends": 2},
    ),
    AsFound(
        name="adjusted PNL.csv",
        text="Date,Adj Close,Close\n2026-06-30,11.9,12.5\n2026-06-29,11.8,12.4\n",
        facts={"prices": [{"day": "2026-06-30", "close": "12.5"}]},
        count={"prices": 2},
    ),
    AsFound(
        name="adjusted alone PNL.csv",
        text="Date,Adj Close\n2026-06-30,11.9\n2026-06-29,11.8\n",
        choices={"adjusted": "yes"},
        facts={"prices": [{"day": "2026-06-30", "close": "11.9"}]},
        count={"prices": 2},
    ),
    AsFound(
        name="published PNL.csv",
        text="TLL in millions,,\n,2024,2025\nPublished on,2025-02-20,2026-02-26\n"
        "Revenue,1300,1400\nNet income,110,120\n",
        facts={"statements": [stated(2025, published_on="2026-02-26", revenue="1400")]},
        count={"statements": 2},
    ),
    AsFound(
        name="consensus PNL.csv",
        text="EPS\nFiscal year,Mean estimate,Low,High,Analysts\n2026E,1.34,1.2,1.5,7\n"
        "2027E,1.44,1.3,1.6,6\n",
        facts={
            "estimates": [
                {"fiscal_year": "2026", "measure": "eps", "mean": "1.34", "analysts": "7"},
                {"fiscal_year": "2027", "low": "1.3", "high": "1.6"},
            ]
        },
        count={"estimates": 2},
    ),
    AsFound(
        name="bilancio PNL.csv",
        text="Milioni di TLL;2024;2025\nRicavi;1.300,5;1.400,0\nUtile netto;110,0;120,0\n"
        "Totale attivo;2.000,0;2.100,0\n",
        facts={"statements": [stated(2025, revenue="1400", total_assets="2100", unit="million")]},
        count={"statements": 2},
    ),
    AsFound(
        name="jaarrekening PNL.csv",
        text="in duizend TLL;2024;2025\nOmzet;1.300.500;1.400.000\nNettowinst;110.000;120.000\n",
        facts={"statements": [stated(2025, revenue="1400000", net_income="120000")]},
        count={"statements": 2},
    ),
    AsFound(
        name="cuentas PNL.csv",
        text="En millones de TLL;2024;2025\nIngresos;1.300,5;1.400,0\nBeneficio neto;110,0;120,0\n",
        facts={"statements": [stated(2025, revenue="1400", net_income="120", unit="million")]},
        count={"statements": 2},
    ),
    AsFound(
        name="mixed signs PNL.csv",
        text="TLL in millions,,,\n,2023,2024,2025\nRevenue,1200,1300,1400\nNet income,100,110,120\n"
        "Capital expenditure,-50,55,-60\n",
        choices={"0.sign-4": "out"},
        facts={
            "statements": [stated(2024, capital_expenditure="55"), stated(2025, revenue="1400")]
        },
        count={"statements": 3},
    ),
    AsFound(
        name="notes and totals PNL.csv",
        text="Pennant Lamps\nTLL in millions; audited,,\n,2024*,2025 (2)\nRevenue (1),1300†,1400\n"
        "Net income,110,120\nTotal,1410,1520\n* restated,,\n(2) fifty-three weeks,,\n",
        facts={"statements": [stated(2024, revenue="1300"), stated(2025, net_income="120")]},
        count={"statements": 2},
    ),
    AsFound(
        name="saved page TRS.html",
        text="<html><body><table><caption>Key figures, TLL m</caption><tr><th rowspan=1></th>"
        "<th>2024</th><th>2025</th></tr><tr><td>Net sales</td><td>900</td><td>950</td></tr>"
        "<tr><td>Net income</td><td>80</td><td>(5)</td></tr></table>"
        "<table><tr><td>menu</td></tr></table></body></html>",
        facts={"statements": [stated(2025, symbol="TRS", revenue="950", net_income="-5")]},
        count={"statements": 2},
    ),
]
