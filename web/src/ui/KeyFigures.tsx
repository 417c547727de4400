import type { ReactNode } from "react";
import type { Stage } from "@/api/client";
import { KeyFigure } from "./Fig";
import { Sentence } from "./Sentence";

interface Props {
  stage: Stage;
  /** Of measures taken on several bases, the one shown. */
  group?: string;
  /** More of the same, after them. */
  children?: ReactNode;
}

/** The key figures of a stage, in the order they were declared. */
export function KeyFigures({ stage, group, children }: Props) {
  const shown = stage.key_figures.filter((k) => k.group === (group ?? null));
  return (
    <div className="mt-2 grid grid-cols-2 content-start gap-x-5 gap-y-2 md:grid-cols-3 xl:grid-cols-4">
      {shown.map((key) => {
        const figure = stage.figures[key.id];
        return (
          figure && (
            <KeyFigure
              key={key.id}
              name={key.name}
              figure={figure}
              sign={key.signed}
              digits={key.digits ?? undefined}
              note={key.note.length > 0 && <Sentence parts={key.note} />}
            />
          )
        );
      })}
      {children}
    </div>
  );
}
