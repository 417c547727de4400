import { useEffect, useRef, useState } from "react";
import { useView } from "@/state/view";

interface Props {
  label: string;
  placeholder?: string;
  className?: string;
}

/** The words one seeks by, kept in the address. They stand as they are typed: the address follows in
 * its own time, and only what it says of itself (back, a link) takes their place. */
export function SearchField({ label, placeholder, className = "" }: Props) {
  const [view, change] = useView();
  const held = view.q ?? "";
  const [typed, setTyped] = useState(held);
  const told = useRef([held]);
  useEffect(() => {
    const at = told.current.lastIndexOf(held);
    if (at >= 0) {
      told.current.splice(0, at);
    } else {
      told.current = [held];
      setTyped(held);
    }
  }, [held]);
  return (
    <label className="text-[15px] text-muted">
      {label}{" "}
      <input
        type="search"
        className={`field text-ink ${className}`}
        placeholder={placeholder}
        value={typed}
        onChange={(e) => {
          setTyped(e.target.value);
          told.current.push(e.target.value);
          change({ q: e.target.value || undefined }, { replace: true });
        }}
      />
    </label>
  );
}
