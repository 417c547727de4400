import { type ReactNode, useId } from "react";
import { useView } from "@/state/view";
import { useWidth } from "./useWidth";

interface Props {
  /** Names the chart in the URL, where it says that it is shown as a table. */
  name: string;
  title: ReactNode;
  summary: string;
  height: number;
  draw: (width: number) => ReactNode;
  table: ReactNode;
  controls?: ReactNode;
}

/** Every chart: a title, a text summary for those who cannot see it, and a table in its place. */
export function ChartFrame({ name, title, summary, height, draw, table, controls }: Props) {
  const [view, change] = useView();
  const tables = (view.tables ?? "").split(",").filter(Boolean);
  const asTable = tables.includes(name);
  const turn = () => {
    const others = tables.filter((t) => t !== name);
    change({ tables: (asTable ? others : [...others, name]).join(",") || undefined });
  };
  const [box, width] = useWidth();
  const id = useId();
  return (
    <figure className="m-0">
      <figcaption className="flex flex-wrap items-baseline justify-between gap-x-4 text-[13px] text-muted">
        <span id={id}>{title}</span>
        <span className="flex gap-4">
          {controls}
          <button type="button" className="link" aria-pressed={asTable} onClick={turn}>
            table
          </button>
        </span>
      </figcaption>
      <div ref={box}>
        {asTable ? (
          <section
            aria-labelledby={id}
            tabIndex={0}
            className="relative overflow-auto"
            style={{ maxHeight: height }}
          >
            {table}
          </section>
        ) : (
          <div className="relative" style={{ height }}>
            {width > 0 && draw(width)}
            <p className="sr-only">{summary}</p>
          </div>
        )}
      </div>
    </figure>
  );
}
