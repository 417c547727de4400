import type { Fault } from "@/api/sources";

interface Props {
  /** All faults in the API's order: a warning is named by its place among them. */
  faults: Fault[];
  accepted: number[];
  onAccept: (places: number[]) => void;
  /** Mends a likely slip, where the files are read anew for it. */
  onMend?: (mend: NonNullable<Fault["mend"]>) => void;
}

/** What may be right though it looks odd: accepted one by one or together, and remembered. */
export function Warnings({ faults, accepted, onAccept, onMend }: Props) {
  const places = faults.flatMap((f, i) => (f.warning ? [i] : []));
  const easy = places.filter((p) => !faults[p]?.grave);
  const grave = places.length - easy.length;
  const all = easy.every((p) => accepted.includes(p));
  const toggle = (place: number) =>
    onAccept(accepted.includes(place) ? accepted.filter((p) => p !== place) : [...accepted, place]);
  return (
    <>
      <h3 className="mt-4 text-[17px]">
        {places.length} {places.length === 1 ? "warning" : "warnings"}
      </h3>
      <p className="text-[14px] text-muted">
        This looks odd and may be right. What you accept is remembered with the source.{" "}
        {easy.length > 0 && (
          <button
            type="button"
            className="link"
            onClick={() => onAccept(all ? [] : [...new Set([...accepted, ...easy])])}
          >
            {all ? "Accept none" : grave > 0 ? "Accept all others" : "Accept all"}
          </button>
        )}
      </p>
      {grave > 0 && (
        <p className="mt-1 font-semibold">
          {grave === 1
            ? "One holds figures that cannot stand together: say of it by itself whether it is right."
            : `${grave} hold figures that cannot stand together: say of each whether it is right.`}
        </p>
      )}
      <section
        aria-label="Warnings"
        tabIndex={0}
        className="relative mt-2 max-h-[320px] overflow-auto"
      >
        <table className="rows w-full min-w-[640px] text-[14px]">
          <caption className="sr-only">Warnings to accept</caption>
          <thead className="sticky top-0 bg-raised">
            <tr className="[&>th]:text-left!">
              <th scope="col">Accept</th>
              <th scope="col">Where</th>
              <th scope="col">Value</th>
              <th scope="col">Expected</th>
            </tr>
          </thead>
          <tbody>
            {[...places.filter((p) => faults[p]?.grave), ...easy].map((place) => {
              const f = faults[place] as Fault;
              const { mend } = f;
              const where = [f.file, f.line && `line ${f.line}`, f.column?.replaceAll("_", " ")]
                .filter(Boolean)
                .join(", ");
              return (
                <tr key={place} className="align-top [&>td]:text-left">
                  <td>
                    <input
                      type="checkbox"
                      className="size-5 accent-action"
                      aria-label={`Accept: ${where}, ${f.value ?? ""}`}
                      checked={accepted.includes(place)}
                      onChange={() => toggle(place)}
                    />
                  </td>
                  <td>{where}</td>
                  <td className="font-semibold">{f.value ?? "–"}</td>
                  <td>
                    {f.expected}
                    {mend && onMend && (
                      <button
                        type="button"
                        className="button mt-1 block py-0.5"
                        onClick={() => onMend(mend)}
                      >
                        {mend.name}
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </section>
    </>
  );
}
