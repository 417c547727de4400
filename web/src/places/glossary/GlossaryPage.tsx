import { Link } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import { useCatalogue } from "@/api/payers";
import { upperFirst } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import OWN from "@/ui/glossary.json";
import TRADE from "./trade.json";

type Words = [string, string][];

/** What the words mean: our own, those of the trade, and the measures. */
export function GlossaryPage() {
  const [view] = useView();
  const [sought, seek] = useState("");
  const catalogue = useCatalogue(view.as_of);
  useEffect(() => {
    document.title = "Glossary · Hearth Yield";
  }, []);
  const fits = ([word, means]: [string, string]) =>
    `${word} ${means}`.toLowerCase().includes(sought.trim().toLowerCase());
  const own = sorted(Object.entries(OWN)).filter(fits);
  const trade = sorted(Object.entries(TRADE)).filter(fits);
  const measures = (catalogue.data?.measures ?? []).filter(
    (m) => m.unit !== null && m.column && fits([m.name, m.stage]),
  );
  return (
    <div className="px-4 pt-4 pb-6 lg:px-6">
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h1 className="text-[30px]">Glossary</h1>
        <p className="text-[15px] text-muted">What does this word mean here?</p>
      </div>
      <label className="mt-3 block text-[15px] print:hidden">
        <span className="sr-only">Seek a word</span>
        <input
          type="search"
          className="field w-full max-w-[420px]"
          placeholder="Seek a word"
          value={sought}
          onChange={(e) => seek(e.target.value)}
        />
      </label>
      {own.length + trade.length + measures.length === 0 && !catalogue.isPending && (
        <p className="mt-4 text-muted">No word is like that.</p>
      )}
      <div className="gap-x-12 xl:grid xl:grid-cols-2">
        <List id="own" title="Words of our own" words={own} />
        <List id="trade" title="Words of the trade" words={trade} />
      </div>
      {catalogue.error && <ErrorNote error={catalogue.error} />}
      {measures.length > 0 && (
        <section aria-labelledby="measures" className="mt-6">
          <h2 id="measures" className="text-[21px]">
            Measures
          </h2>
          <p className="max-w-prose text-[15px] text-muted">
            Each opens in the table of payers, ordered by it; a figure there opens its working, with
            the formula.
          </p>
          <ul className="mt-1 gap-x-8 text-[15px] sm:columns-2 xl:columns-4">
            {measures.map((m) => (
              <li key={m.id} className="py-0.5">
                <Link
                  to="/payers"
                  search={{ as_of: view.as_of, cols: m.id, sort: m.sort ?? undefined }}
                  className="link"
                >
                  {upperFirst(m.name)}
                </Link>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

const sorted = (words: Words): Words => words.sort(([a], [b]) => a.localeCompare(b));

function List({ id, title, words }: { id: string; title: string; words: Words }) {
  if (words.length === 0) return null;
  return (
    <section aria-labelledby={id} className="mt-6">
      <h2 id={id} className="text-[21px]">
        {title}
      </h2>
      <dl className="mt-1 text-[15px]">
        {words.map(([word, means]) => (
          <div key={word} className="border-b border-line py-1.5 sm:grid sm:grid-cols-[160px_1fr]">
            <dt className="font-semibold">{upperFirst(word)}</dt>
            <dd className="max-w-prose">{means}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
