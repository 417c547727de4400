import { Popover } from "radix-ui";
import { useState } from "react";
import type { PayerKey } from "@/api/hooks";
import { type FactRow, useExclude, useTakeBack } from "@/api/sources";
import { ErrorNote, Refused } from "@/ui/ErrorNote";

interface Props {
  payer: PayerKey;
  table: string;
  row: FactRow;
  /** What it is, for those who hear it. */
  name: string;
}

/** A fact that should not count is excluded with a reason: it stays held, and can count again. */
export function Exclude({ payer, table, row, name }: Props) {
  const back = useTakeBack();
  const out = row.edited.excluded;
  if (out) {
    return (
      <>
        <button
          type="button"
          className="link"
          aria-label={`Count again: ${name}`}
          title={out.reason}
          disabled={back.isPending}
          onClick={() => back.mutate({ id: out.id, again: false })}
        >
          Include again
        </button>
        <Refused error={back.error} />
      </>
    );
  }
  return <Ask payer={payer} table={table} row={row} name={name} />;
}

function Ask({ payer, table, row, name }: Props) {
  const leave = useExclude(payer);
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="link" aria-label={`Exclude: ${name}`}>
        Exclude
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          aria-label={`Exclude: ${name}`}
          className="z-50 w-[min(340px,92vw)] rounded-md border border-line bg-raised p-3 text-[15px] shadow-lg"
        >
          <form
            onSubmit={(e) => {
              e.preventDefault();
              leave.mutate({ table, key: row.key, reason }, { onSuccess: () => setOpen(false) });
            }}
          >
            <label className="block text-[14px] text-muted">
              Why it should not count
              <textarea
                className="field mt-1 block w-full text-[15px] text-ink"
                rows={2}
                maxLength={500}
                value={reason}
                onChange={(e) => setReason(e.target.value)}
              />
            </label>
            {leave.error && <ErrorNote error={leave.error} kept="What you typed is still here." />}
            <button
              type="submit"
              className="button primary mt-2"
              disabled={!reason.trim() || leave.isPending}
            >
              Exclude it
            </button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
