import { useState } from "react";
import type { Schemas, WorthSeries } from "@/api/client";
import { upperFirst, withDates } from "@/format/format";
import { useView } from "@/state/view";
import { InputFields } from "@/ui/InputFields";

type Opinions = Schemas["OpinionsSeries"];
const CHANCES = ["chance_low", "chance_middle", "chance_high"];
const MARGINS = ["margin_of_safety", "second_margin", "trim_premium"];

interface Props {
  worth: WorthSeries;
  opinions: Opinions | undefined;
  error: unknown;
  opened: string[];
}

/** What the leading models and those that count or were opened take; on demand at their low and high
 * too, with the chances of both. */
export function Assumptions({ worth, opinions, error, opened }: Props) {
  const [view, change] = useView();
  const [cases, setCases] = useState(/\.(low|high):|chance_/.test(view.inputs ?? ""));
  const taken = new Set(
    [...worth.models, ...(opinions?.models ?? [])].flatMap((m) =>
      m.lead || m.on || opened.includes(m.id) ? m.takes : [],
    ),
  );
  const held = new Set(worth.inputs.map((i) => i.id));
  const more = (opinions?.inputs ?? []).filter((i) => !held.has(i.id));
  const always = cases ? [...MARGINS, ...CHANCES] : MARGINS;
  const fields = [...worth.inputs, ...more].filter((i) => always.includes(i.id) || taken.has(i.id));
  const notes = fields.flatMap((i) => (i.figure.notes ?? []).slice(1));
  return (
    <InputFields
      fields={fields}
      text={view.inputs}
      onText={(inputs) => change({ inputs }, { replace: true })}
      error={error}
      columns="xl:grid-cols-5"
      sides={cases}
    >
      <p className="mt-2 text-[13px] text-muted">
        <button
          type="button"
          className="link mr-3"
          aria-pressed={cases}
          onClick={() => setCases(!cases)}
        >
          Low and high cases, and their chances
        </button>
        {!cases && <>Low and high: {fields.flatMap((i) => i.spread || []).join(", ")}. </>}
        {notes.map((note) => `${upperFirst(withDates(note))}.`).join(" ")}
      </p>
    </InputFields>
  );
}
