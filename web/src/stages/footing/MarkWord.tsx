/** Whether a line speaks for the payer or against it: by word and weight, not by colour. */
export function MarkWord({ mark }: { mark: "for" | "against" | null }) {
  if (mark === null) return <span className="text-muted">–</span>;
  return mark === "for" ? <span>for</span> : <b className="font-semibold">against</b>;
}
