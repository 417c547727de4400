import { Pencil } from "lucide-react";

const WORDS = {
  edited: "rests on a figure you edited",
  entered: "rests on a figure entered by hand",
} as const;

/** Marks a figure that a person had a hand in, wherever it is used. */
export function TouchMark({ touch }: { touch?: keyof typeof WORDS | null }) {
  if (!touch) return null;
  return (
    <Pencil
      size={11}
      role="img"
      aria-label={WORDS[touch]}
      className={`ml-0.5 inline-block align-[2px] ${touch === "edited" ? "text-action" : "text-muted"}`}
    />
  );
}
