import { type Edit, useEdits, useTakeBack } from "@/api/sources";
import { day, number, upperFirst, withDates } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";
import { ReviewLink } from "@/ui/ReviewLink";

/** Every figure that was replaced or excluded, why, what it was, and the way back. */
export function Edits() {
  const found = useEdits();
  const back = useTakeBack();
  return (
    <section className="mt-4" aria-labelledby="edits">
      <h2 id="edits" className="text-[21px]">
        Edits
      </h2>
      <p className="max-w-[80ch] text-[15px] text-muted">
        The original always stays. Edit a value from its working: open the figure anywhere, go down
        to the fact, and give the value and the reason. Exclude a whole fact under “Data by payer”,
        or a freak year in Cover.
      </p>
      {found.error && <ErrorNote error={found.error} />}
      {back.error && <ErrorNote error={back.error} kept="Nothing was changed." />}
      {found.data?.length === 0 && <p className="mt-3">Nothing is edited or excluded.</p>}
      {found.data && found.data.length > 0 && (
        <div className="relative overflow-x-auto">
          <table className="rows mt-2 w-full min-w-[820px] text-[15px]">
            <caption className="sr-only">Edits, the newest first</caption>
            <thead>
              <tr className="[&>th]:text-left!">
                <th scope="col">Payer</th>
                <th scope="col">Figure</th>
                <th scope="col">Was</th>
                <th scope="col">Is</th>
                <th scope="col">Why</th>
                <th scope="col">On</th>
                <th scope="col">
                  <span className="sr-only">Way back</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {found.data.map((a) => (
                <Line
                  key={a.id}
                  made={a}
                  onBack={() => back.mutate({ id: a.id, again: a.withdrawn_at !== null })}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}

function Line({ made, onBack }: { made: Edit; onBack: () => void }) {
  const gone = made.withdrawn_at !== null;
  const about = made.excluded ? made.table : (made.basis ?? made.field);
  const name = about.replaceAll("_", " ");
  const when = withDates(
    made.excluded
      ? Object.values(made.key).join(" ").replaceAll("_", " ")
      : (made.key.period_end ?? made.key.ex_date ?? made.key.day ?? ""),
  );
  const { scale } = made;
  const show = (value: number | null) =>
    value === null
      ? "not reported"
      : `${number(value / scale, scale === 1 ? 4 : 3)}${scale > 1 ? " m" : ""}`;
  const [was, is] = made.excluded
    ? ["included", "excluded"]
    : made.basis
      ? ["included", "excluded"]
      : [show(made.original), show(made.value)];
  const again = made.excluded ? "Exclude again" : made.basis ? "Exclude again" : "Edit again";
  const back = made.excluded || made.basis ? "Include again" : "Back to the original";
  return (
    <tr className={`align-top [&>td]:text-left ${gone ? "text-muted" : ""}`}>
      <td>
        <ReviewLink
          payer={made}
          search={{ stage: made.table === "statements" ? "cover" : "record" }}
        >
          {made.symbol}
        </ReviewLink>
      </td>
      <td>
        {upperFirst(name)}, {when}
      </td>
      <td className="whitespace-nowrap">{was}</td>
      <td className={`whitespace-nowrap ${gone ? "line-through" : "font-semibold"}`}>{is}</td>
      <td className="max-w-[320px]">{made.reason}</td>
      <td className="whitespace-nowrap">{day(made.made_at)}</td>
      <td className="whitespace-nowrap pr-0!">
        <button
          type="button"
          className="link"
          aria-label={`${gone ? again : back}: ${made.symbol}, ${name}`}
          onClick={onBack}
        >
          {gone ? again : back}
        </button>
      </td>
    </tr>
  );
}
