import { useMutation } from "@tanstack/react-query";
import type { MouseEvent, ReactNode } from "react";
import { fetchFile, saveFile } from "@/api/files";
import { Refused } from "./ErrorNote";

interface Props {
  href: string;
  className?: string;
  "aria-label"?: string;
  children: ReactNode;
  /** What the file is, said after its link. */
  note?: ReactNode;
}

/** A link to a file that the program makes. Why it was not made is told beside it; the address stays
 * one, for whoever saves or opens it another way. */
export function Download({ href, children, note, ...link }: Props) {
  const take = useMutation({ mutationFn: async () => saveFile(await fetchFile(href)) });
  const click = (e: MouseEvent) => {
    if (e.button !== 0 || e.metaKey || e.ctrlKey || e.shiftKey || e.altKey) return;
    e.preventDefault();
    if (!take.isPending) take.mutate();
  };
  return (
    <>
      <a href={href} download onClick={click} aria-busy={take.isPending || undefined} {...link}>
        {children}
      </a>
      <span role="status" className="text-muted">
        {take.isPending && " (being prepared …)"}
      </span>
      {note} <Refused error={take.error} />
    </>
  );
}
