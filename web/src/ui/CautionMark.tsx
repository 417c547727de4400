import { CircleAlert } from "lucide-react";
import { upperFirst, withDates } from "@/format/format";

/** Marks a figure that should not be relied on without knowing something first. */
export function CautionMark({ cautions }: { cautions?: string[] }) {
  if (!cautions?.length) return null;
  const words = cautions.map((c) => upperFirst(withDates(c))).join(". ");
  return (
    <CircleAlert
      size={13}
      role="img"
      aria-label={words}
      className="ml-0.5 inline-block align-[-1px] text-ink"
    >
      <title>{words}</title>
    </CircleAlert>
  );
}
