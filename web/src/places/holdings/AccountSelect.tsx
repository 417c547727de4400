import type { Account } from "@/api/holdings";

interface Props {
  label: string;
  accounts: Account[];
  /** An account's number as text. */
  value: string;
  onChange: (value: string) => void;
  /** What it is called where none of them is meant; without it one is always meant. */
  none?: string;
}

/** One of the person's accounts. */
export function AccountSelect({ label, accounts, value, onChange, none }: Props) {
  return (
    <label>
      {label}{" "}
      <select className="field" value={value} onChange={(e) => onChange(e.target.value)}>
        {none !== undefined && <option value="">{none}</option>}
        {accounts.map((a) => (
          <option key={a.id} value={a.id}>
            {a.name}
          </option>
        ))}
      </select>
    </label>
  );
}
