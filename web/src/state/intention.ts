import { useRef } from "react";

/** A key for what is meant: the same words sent again under it are recorded once. */
export function useIntention() {
  const held = useRef({ body: "", key: "" });
  return (body: object) => {
    const text = JSON.stringify(body);
    if (held.current.body !== text) held.current = { body: text, key: crypto.randomUUID() };
    return held.current.key;
  };
}
