import { useState } from "react";
import type { Schemas, WorthSeries } from "@/api/client";
import { readInputs } from "@/api/question";
import { upperFirst, withDates } from "@/format/format";
import { useView } from "@/state/view";
import { InputFields } from "@/ui/InputFields";
import type { QuestionId } from "./Models";

type Opinions = Schemas["OpinionsSeries"];
interface Props {
  worth: WorthSeries;
  opinions: Opinions | undefined;
  error: unknown;
  /** Models whose details are shown. */
  opened: string[];
  /** Questions whose models are shown. */
  open: QuestionId[];
}

/** Whether something is typed that stands with the low and high cases. */
const opensCases = (text: string | undefined, worth: WorthSeries) =>
  Object.keys(readInputs(text)).some(
    (id) => id.includes(".") || worth.inputs.find((i) => i.id === id)?.shown === "cases",
  );

/** What decides most, and what the models take that are looked at; on demand at their low and high
 * too, with the chances of both and further margins. */
export function Assumptions({ worth, opinions, error, opened, open }: Props) {
  const [view, change] = useView();
  const [cases, setCases] = useState(opensCases(view.inputs, worth));
  const taken = new Set(
    [...worth.models, ...(opinions?.models ?? [])].flatMap((m) =>
      opened.includes(m.id) || ((m.lead || m.on) && open.includes(m.answers)) ? m.takes : [],
    ),
  );
  const held = new Set(worth.inputs.map((i) => i.id));
  const more = (opinions?.inputs ?? []).filter((i) => !held.has(i.id));
  const typed = new Set(Object.keys(readInputs(view.inputs)).map((id) => id.split(".")[0]));
  const fields = [...worth.inputs, ...more].filter(
    (i) =>
      i.shown === "always" || (i.shown === "cases" && cases) || typed.has(i.id) || taken.has(i.id),
  );
  const notes = fields.flatMap((i) => (i.figure.notes ?? []).slice(1));
  return (
    <InputFields
      fields={fields}
      text={view.inputs}
      onText={(inputs) => change({ inputs }, { replace: true })}
      error={error}
      columns="xl:grid-cols-6"
      sides={cases}
    >
      <p className="mt-2 text-[13px] text-muted">
        <button
          type="button"
          className="link mr-3"
          aria-pressed={cases}
          onClick={() => setCases(!cases)}
        >
          Low and high cases, their chances, more margins
        </button>
        {!cases && <>Low and high: {fields.flatMap((i) => i.spread || []).join(", ")}. </>}
        {notes.map((note) => `${upperFirst(withDates(note))}.`).join(" ")}
      </p>
    </InputFields>
  );
}
