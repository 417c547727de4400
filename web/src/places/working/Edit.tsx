import { useId, useState } from "react";
import type { Schemas } from "@/api/client";
import type { PayerKey } from "@/api/hooks";
import { useEdit, useTakeBack } from "@/api/sources";
import { number, readNumber } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";

type Fact = Schemas["FactOut"];

/** Another value in the place of a held fact, with the reason; the fact stays, and the way back. */
export function Edit({ fact, payer }: { fact: Fact; payer: PayerKey }) {
  const [open, setOpen] = useState(false);
  const back = useTakeBack();
  const { scale } = fact;
  const raw = fact.raw === null ? "not reported" : number(fact.raw / scale, scale === 1 ? 4 : 3);
  return (
    <section className="mt-5 border-line border-t pt-4" aria-label="Edit this figure">
      {fact.edit !== null && (
        <p>
          You edited this figure; it was {raw}
          {fact.raw !== null && scale > 1 && " m"}.{" "}
          <button
            type="button"
            className="link"
            onClick={() => back.mutate({ id: fact.edit as number, again: false })}
          >
            Back to the original
          </button>
        </p>
      )}
      {back.error && <ErrorNote error={back.error} kept="The edit stands." />}
      {open ? (
        <Form fact={fact} payer={payer} scale={scale} onDone={() => setOpen(false)} />
      ) : (
        <button type="button" className="button" onClick={() => setOpen(true)}>
          Edit with a reason
        </button>
      )}
    </section>
  );
}

interface FormProps {
  fact: Fact;
  payer: PayerKey;
  scale: number;
  onDone: () => void;
}

function Form({ fact, payer, scale, onDone }: FormProps) {
  const adjust = useEdit(payer);
  const [value, setValue] = useState(fact.raw === null ? "" : String(fact.raw / scale));
  const [reason, setReason] = useState("");
  const id = useId();
  const read = readNumber(value);
  const typed = "value" in read ? read.value : Number.NaN;
  const sound = "value" in read;
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        const { table, key, field } = fact;
        const body = { table, key, field, value: typed * scale, reason };
        if (sound) adjust.mutate(body, { onSuccess: onDone });
      }}
    >
      <label htmlFor={`${id}-value`} className="block text-[14px] text-muted">
        The value to use instead{scale > 1 && ", m"}
      </label>
      <input
        id={`${id}-value`}
        // biome-ignore lint/a11y/noAutofocus: the form opens at the person's own press
        autoFocus
        className="field mt-1 w-40 text-right"
        inputMode="decimal"
        value={value}
        aria-invalid={value.trim() !== "" && !sound ? true : undefined}
        onChange={(e) => setValue(e.target.value)}
      />
      {"error" in read && value.trim() !== "" && (
        <p role="alert" className="mt-1 text-[13px] text-outside">
          {read.error}
        </p>
      )}
      <label htmlFor={`${id}-reason`} className="mt-2 block text-[14px] text-muted">
        Why
      </label>
      <textarea
        id={`${id}-reason`}
        className="field mt-1 w-full"
        rows={2}
        maxLength={500}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
      />
      {adjust.error && <ErrorNote error={adjust.error} kept="What you typed is still here." />}
      <div className="mt-2 flex gap-3">
        <button
          type="submit"
          className="button primary"
          disabled={!sound || !reason.trim() || adjust.isPending}
        >
          Save
        </button>
        <button type="button" className="button" onClick={onDone}>
          Cancel
        </button>
      </div>
    </form>
  );
}
