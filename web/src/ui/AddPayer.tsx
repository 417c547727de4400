import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useNames } from "@/api/hooks";

interface Props {
  label?: string;
  taken: string[];
  onAdd: (key: string, found: Found) => void;
}

/** A payer that was found by its name. */
export type Found = Schemas["PayerNameOut"];

/** A payer by name or symbol; Enter takes the first found. */
export function AddPayer({ label = "Add", taken, onAdd }: Props) {
  const [text, setText] = useState("");
  const names = useNames(text.trim(), text.trim().length > 0);
  const found = (names.data ?? [])
    .map((f) => ({ ...f, key: `${f.exchange}/${f.symbol}` }))
    .filter((f) => !taken.includes(f.key))
    .slice(0, 6);
  const add = (one: Found & { key: string }) => {
    onAdd(one.key, one);
    setText("");
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      <label className="text-[15px] text-muted">
        {label}{" "}
        <input
          type="search"
          className="field ml-1 w-[190px] text-ink"
          placeholder="name or symbol"
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => {
            if (e.key !== "Enter") return;
            e.preventDefault();
            if (found[0]) add(found[0]);
          }}
        />
      </label>
      {text.trim() !== "" &&
        found.map((f) => (
          <button key={f.key} type="button" className="button py-0.5" onClick={() => add(f)}>
            {f.name}
          </button>
        ))}
      {text.trim() !== "" && names.data && found.length === 0 && (
        <span className="text-[14px] text-muted">None is called that.</span>
      )}
    </div>
  );
}
