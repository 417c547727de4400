import { Dialog } from "radix-ui";
import type { Schemas } from "@/api/client";
import { useWorking } from "@/api/hooks";
import { day, isPercent, show, upperFirst, withDates } from "@/format/format";
import { useHiddenAmounts } from "@/state/amounts";
import { questionOf, readOpen, useView } from "@/state/view";
import { HideAmounts } from "@/ui/Amount";
import { CautionMark } from "@/ui/CautionMark";
import { ErrorNote } from "@/ui/ErrorNote";
import { TouchMark } from "@/ui/TouchMark";
import { Edit } from "./Edit";

type Working = Schemas["WorkingOut"];

/** How a figure came about, down to facts with their date and source. */
export function WorkingDrawer() {
  const [view, change] = useView();
  const { payer, key, asked } = readOpen(view.open);
  const working = useWorking(payer, {
    ...questionOf(view),
    ...asked,
    key,
    path: view.path ?? "",
  });
  const hidden = useHiddenAmounts() && /^(held|totals)\b/.test(key ?? "");
  const close = () => change({ open: undefined, path: undefined });
  const go = (path: string) => change({ path: path || undefined });
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-y-0 right-0 z-50 w-[min(500px,100vw)] overflow-y-auto border-line border-l bg-raised p-6"
        >
          <div className="flex items-baseline justify-between gap-4">
            <Dialog.Title className="text-[21px]">
              {working.data ? upperFirst(withDates(working.data.figure.label)) : "Working"}
            </Dialog.Title>
            <Dialog.Close className="link">Close</Dialog.Close>
          </div>
          {working.error && <ErrorNote error={working.error} />}
          {working.data && !working.error && hidden && (
            <p className="mt-3 text-[15px]">
              Amounts are hidden. <HideAmounts />
            </p>
          )}
          {working.data && !working.error && !hidden && <Body working={working.data} go={go} />}
          {working.data?.fact && !working.error && (
            <Edit
              key={`${working.data.figure.key}/${working.data.path}`}
              fact={working.data.fact}
              payer={payer}
            />
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Body({ working, go }: { working: Working; go: (path: string) => void }) {
  const { figure } = working;
  return (
    <div className="text-[15px]">
      <Trail working={working} go={go} />
      <p className="mt-2 font-serif text-[30px] leading-tight">
        {figure.value === null ? "Unknown" : precise(figure)}
        {figure.value !== null && <Currency of={figure} />}
        <TouchMark touch={figure.touch} />
      </p>
      {figure.reason && <p className="mt-1">{upperFirst(withDates(figure.reason))}.</p>}
      {figure.was != null && (
        <p>
          It was {precise({ ...figure, value: figure.was })} {figure.currency} then.
        </p>
      )}
      {figure.cautions.map((c) => (
        <p key={c} className="mt-1">
          <CautionMark cautions={[c]} /> {upperFirst(withDates(c))}.
        </p>
      ))}
      {figure.period && <p className="text-muted">{upperFirst(withDates(figure.period))}</p>}
      {working.formula && (
        <>
          <h3 className="mt-5 text-[17px]">How</h3>
          <p>{upperFirst(withDates(working.formula))}</p>
        </>
      )}
      {figure.notes && figure.notes.length > 0 && (
        <ul className="mt-2 text-muted">
          {figure.notes.map((note) => (
            <li key={note}>{upperFirst(withDates(note))}</li>
          ))}
        </ul>
      )}
      {working.inputs.length > 0 && <Inputs working={working} go={go} />}
      {(working.source || figure.known_on) && <Provenance working={working} />}
      {working.sample && <Sample sample={working.sample} />}
    </div>
  );
}

const precise = (f: Working["figure"]) =>
  show(f.value as number, f.unit, {
    digits: isPercent(f.unit) ? 2 : f.unit === "per_share" ? 4 : undefined,
  });

function Currency({ of }: { of: Working["figure"] }) {
  if (!of.currency) return null;
  return <span className="font-normal font-sans text-[13px] text-muted"> {of.currency}</span>;
}

function Trail({ working, go }: { working: Working; go: (path: string) => void }) {
  const steps = working.path ? working.path.split(".") : [];
  if (steps.length === 0) return null;
  return (
    <nav aria-label="The way here" className="mt-1 flex flex-wrap gap-x-1 text-[13px] text-muted">
      {working.trail.slice(0, -1).map((label, i) => (
        <span key={`${i}-${label}`}>
          <button type="button" className="link" onClick={() => go(steps.slice(0, i).join("."))}>
            {withDates(label)}
          </button>{" "}
          ›
        </span>
      ))}
    </nav>
  );
}

function Inputs({ working, go }: { working: Working; go: (path: string) => void }) {
  return (
    <>
      <h3 className="mt-5 text-[17px]">From</h3>
      <table className="rows w-full">
        <caption className="sr-only">Inputs of this figure</caption>
        <tbody>
          {working.inputs.map((input) => (
            <tr key={input.path}>
              <td>
                {input.opens ? (
                  <button type="button" className="link text-left" onClick={() => go(input.path)}>
                    {withDates(input.label)}
                  </button>
                ) : (
                  withDates(input.label)
                )}
                <div className="text-[13px] text-muted">
                  {[
                    input.period && withDates(input.period),
                    input.known_on && `known ${day(input.known_on)}`,
                  ]
                    .filter(Boolean)
                    .join(" · ")}
                </div>
              </td>
              <td className="whitespace-nowrap pr-0! align-top font-semibold">
                {input.value === null ? "unknown" : precise(input)}
                {input.value !== null && <Currency of={input} />}
                <TouchMark touch={input.touch} />
                <CautionMark cautions={input.cautions} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

function Provenance({ working }: { working: Working }) {
  const { source, figure } = working;
  return (
    <>
      <h3 className="mt-5 text-[17px]">Where it comes from</h3>
      <dl className="grid grid-cols-[88px_1fr] gap-y-1">
        {figure.known_on && (
          <>
            <dt className="text-muted">Known on</dt>
            <dd>{day(figure.known_on)}</dd>
          </>
        )}
        {source && (
          <>
            <dt className="text-muted">Source</dt>
            <dd>
              {source.file_name}{" "}
              <span className="text-muted">
                ({source.kind}, no. {source.id})
              </span>
            </dd>
            <dt className="text-muted">Added</dt>
            <dd>{day(source.added_at)}</dd>
          </>
        )}
      </dl>
    </>
  );
}

function Sample({ sample }: { sample: NonNullable<Working["sample"]> }) {
  return (
    <>
      <h3 className="mt-5 text-[17px]">The facts it was made from</h3>
      <p className="text-[13px] text-muted">
        {sample.rows.length} weeks, newest first · source:{" "}
        {sample.sources.map((s) => s.file_name).join(", ") || "unknown"}
      </p>
      <section aria-label="Weeks" tabIndex={0} className="mt-1 max-h-[46vh] overflow-y-auto">
        <table className="rows w-full text-[14px]">
          <caption className="sr-only">Every week in the sample</caption>
          <thead className="sticky top-0 bg-raised">
            <tr>
              <th scope="col">Close of</th>
              {sample.columns.map((name, i) => (
                <th key={name} scope="col">
                  {upperFirst(name)}
                  {isPercent(sample.units[i] ?? "count") && ", %"}
                </th>
              ))}
              <th scope="col">Rate known</th>
            </tr>
          </thead>
          <tbody>
            {sample.rows.map((row) => (
              <tr key={row.day}>
                <td>{day(row.day)}</td>
                {row.values.map((value, i) => (
                  <td key={sample.columns[i]}>
                    {show(value, sample.units[i] ?? "count", { bare: true, digits: 2 })}
                  </td>
                ))}
                <td>{row.since ? day(row.since) : "–"}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </>
  );
}
