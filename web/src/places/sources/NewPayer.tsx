import { useState } from "react";
import { useUsualPayer } from "@/api/sources";
import { PayerFields, plainPayer, whole } from "./PayerFields";

interface Props {
  name: string;
  /** One made before: exchange, country, currency and kind are likely to be the same. */
  like?: Record<string, string>;
  onMade: (payer: Record<string, string>) => void;
  onClose: () => void;
}

/** A payer made on the spot, with what every payer needs. */
export function NewPayer({ name, like, onMade, onClose }: Props) {
  const usual = useUsualPayer();
  const [typed, setTyped] = useState<Record<string, string>>({ name });
  const held: Record<string, string> = {
    kind: "company",
    fiscal_year_end_month: "12",
    ...usual,
    ...(like && { ...like, symbol: "" }),
    ...typed,
  };
  return (
    <form
      className="clear-both"
      onSubmit={(e) => {
        e.preventDefault();
        if (whole(held)) onMade(plainPayer(held));
      }}
    >
      <PayerFields held={held} onSet={(id, value) => setTyped({ ...typed, [id]: value })} />
      <p className="mt-2 flex gap-3">
        <button type="submit" className="button primary" disabled={!whole(held)}>
          Create payer
        </button>
        <button type="button" className="button" onClick={onClose}>
          Cancel
        </button>
      </p>
    </form>
  );
}
