import { day } from "@/format/format";
import { Download } from "./Download";

/** A decision as two sheets of paper, and as a file that needs nothing else. */
export function MemoLinks({ id, made }: { id: number; made: string }) {
  return (
    <p className="flex flex-wrap gap-x-5 text-[14px] print:hidden">
      <a
        className="link"
        href={`/api/decisions/${id}/memo`}
        target="_blank"
        rel="noreferrer"
        aria-label={`Memo, to print: ${day(made)}`}
      >
        Memo, to print
      </a>
      <Download
        className="link"
        href={`/api/decisions/${id}/memo?save=true`}
        aria-label={`Save as a file: the memo of ${day(made)}`}
      >
        Save as a file
      </Download>
    </p>
  );
}
