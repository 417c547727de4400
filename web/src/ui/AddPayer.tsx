import { useState } from "react";
import { useNames } from "@/api/hooks";

interface Props {
  label?: string;
  taken: string[];
  onAdd: (key: string) => void;
}

/** A payer by name or symbol; Enter takes the first found. */
export function AddPayer({ label = "Add", taken, onAdd }: Props) {
  const [text, setText] = useState("");
  const names = useNames(text.trim(), text.trim().length > 0);
  const found = (names.data ?? [])
    .map((f) => ({ ...f, key: `${f.exchange}/${f.symbol}` }))
    .filter((f) => !taken.includes(f.key))
    .slice(0, 6);
  const add = (key: string) => {
    onAdd(key);
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
            if (e.key === "Enter" && found[0]) add(found[0].key);
          }}
        />
      </label>
      {text.trim() !== "" &&
        found.map((f) => (
          <button key={f.key} type="button" className="button py-0.5" onClick={() => add(f.key)}>
            {f.name}
          </button>
        ))}
      {text.trim() !== "" && names.data && found.length === 0 && (
        <span className="text-[14px] text-muted">None is called that.</span>
      )}
    </div>
  );
}
