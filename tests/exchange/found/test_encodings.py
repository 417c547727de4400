"""The encoding of a text is told by what reads like words, and shown with what else it may say."""

import pytest

from hearth_yield.exchange.found.encodings import NAMES, decode
from hearth_yield.exchange.found.reading import read_found

from .test_found import AROUND


@pytest.mark.parametrize(
    ("text", "encoding"),
    [
        ("Datum;Schlusskurs\nUmsatzerlöse;Größe", "cp1252"),
        ("Société générale;Exercice clôturé", "cp1252"),
        ("Société générale;Exercice clôturé", "mac_roman"),
        ("Société générale;Exercice clôturé", "cp437"),
        ("Żywiec;Przychód\nŁódź;1", "cp1250"),
        ("Дата;Выручка\n1;2", "cp1251"),
        ("Дата;Выручка\n1;2", "koi8_r"),
        ("Ημερομηνία;Τιμή", "cp1253"),
        ("År;Kurs\nØl;1", "cp1252"),
        ("Price £;10", "cp1252"),
        ("Preis in €;10", "cp1252"),
        ("Date;Close\n1;2", "utf-16-le"),
        ("Date;Clôture\n1;2", "utf-8"),
        ("Date;Clôture\n1;2", "utf-16"),
    ],
)
def test_what_reads_like_words_is_taken(text: str, encoding: str) -> None:
    found = decode(text.encode(encoding))
    assert (found.text, found.sure) == (text, True)


def test_what_reads_like_words_in_several_is_asked_with_what_each_says() -> None:
    text = "日付,終値\n2026-06-30,12\n"
    found = decode(text.encode("shift_jis"))
    assert not found.sure
    assert ("shift_jis", "日付,終値") in found.choices
    assert {e for e, _ in found.choices} <= set(NAMES)
    assert decode(text.encode("shift_jis"), "shift_jis").text == text


def test_it_is_shown_and_can_be_chosen() -> None:
    raw = "Datum;Schlusskurs;Größe\n30.06.2026;12,50;x\n".encode("mac_roman")
    (found,) = read_found([("PNL.csv", raw)], AROUND, {})
    setting = found.tables[0].settings[0]
    assert (setting.id, setting.answer, setting.asked) == ("encoding", "mac_roman", False)
    assert setting.options[0][1].startswith("“Datum;Schlusskurs;Größe”")
    (told,) = read_found([("PNL.csv", raw)], AROUND, {"0.encoding": "cp1252"})
    assert told.tables[0].settings[0].answer == "cp1252"
    assert told.tables[0].settings[0].asked
    asked = "Date,Close,日\n2026-06-30,12.5,付\n".encode("shift_jis")
    (open_one,) = read_found([("PNL.csv", asked)], AROUND, {})
    assert "encoding" in {q.name for q in open_one.tables[0].questions}
