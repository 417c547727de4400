import type { ReactNode } from "react";
import { isTerm, Term } from "./Term";

interface Props {
  id: string;
  title: string;
  question: ReactNode;
  controls?: ReactNode;
  children: ReactNode;
  onKeyDown?: (event: React.KeyboardEvent) => void;
}

/** One stage of the review: its name, its question, and a whole screen of its own. */
export function StageSection({ id, title, question, controls, children, onKeyDown }: Props) {
  return (
    <section
      id={id}
      aria-labelledby={`${id}-title`}
      onKeyDown={onKeyDown}
      className="scroll-mt-[var(--stuck)] border-line border-b px-4 pt-4 pb-8 lg:min-h-[calc(100vh-var(--stuck))] lg:px-6"
    >
      <div className="flex flex-wrap items-baseline justify-between gap-x-6">
        <h2 id={`${id}-title`} tabIndex={-1} className="text-[21px] outline-none">
          {isTerm(id) ? <Term id={id}>{title}</Term> : title}
        </h2>
        {controls && <div className="flex flex-wrap gap-x-4 text-[14px]">{controls}</div>}
      </div>
      <p className="mb-3 text-[15px] text-muted">{question}</p>
      {children}
    </section>
  );
}

/** A choice among a few, as quiet words. */
export function Choice<T extends string>(props: {
  label: string;
  /** flag: something in it asks to be read. */
  options: { value: T; name: string; flag?: boolean }[];
  value: T;
  onChange: (value: T) => void;
}) {
  return (
    <fieldset className="flex flex-wrap gap-x-3">
      <legend className="sr-only">{props.label}</legend>
      {props.options.map((o) => (
        <button
          key={o.value}
          type="button"
          className="link"
          aria-pressed={o.value === props.value}
          onClick={() => props.onChange(o.value)}
        >
          {o.name}
          {o.flag && (
            <span className="font-semibold">
              <span aria-hidden="true"> !</span>
              <span className="sr-only">, something is amiss</span>
            </span>
          )}
        </button>
      ))}
    </fieldset>
  );
}
