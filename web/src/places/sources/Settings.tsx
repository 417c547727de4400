import { useId, useState } from "react";
import type { Schemas } from "@/api/client";
import { useNames } from "@/api/hooks";
import { withDates } from "@/format/format";
import { NewPayer } from "./NewPayer";

type Table = Schemas["FoundTableOut"];
type Setting = Schemas["FoundSettingOut"];

interface Props {
  table: Table;
  made: Record<string, string>[];
  onAnswer: (id: string, value: string | undefined) => void;
  onPayer: (id: string, payer: Record<string, string>) => void;
}

/** What is open is asked; what is settled can be changed, behind one line that tells it. */
export function Settings({ table, made, onAnswer, onPayer }: Props) {
  const [changing, setChanging] = useState(false);
  const settled = table.settings.filter((s) => s.answer !== null);
  return (
    <>
      {table.settings
        .filter((s) => s.answer === null)
        .map((s) => (
          <Ask
            key={s.id}
            setting={s}
            made={made}
            onAnswer={(value) => onAnswer(s.id, value)}
            onPayer={(payer) => onPayer(s.id, payer)}
          />
        ))}
      {settled.length > 0 && (
        <p className="mt-1 text-[14px] text-muted">
          {settled.map(inWords).filter(Boolean).join(" · ")}{" "}
          <button
            type="button"
            className="link"
            aria-expanded={changing}
            onClick={() => setChanging(!changing)}
          >
            {changing ? "Close" : "Change"}
          </button>
        </p>
      )}
      {changing && (
        <div className="mt-1 flex flex-wrap gap-x-5 gap-y-2 rounded-md bg-sunk px-3 py-2">
          {table.kinds.length > 1 && (
            <label className="text-[14px]">
              read as{" "}
              <select
                className="field py-0.5"
                value={table.kind}
                onChange={(e) => onAnswer(`${table.id}.kind`, e.target.value)}
              >
                {table.kinds.map((k) => (
                  <option key={k} value={k}>
                    {k.replaceAll("_", " ")}
                  </option>
                ))}
              </select>
            </label>
          )}
          {settled.map((s) => (
            <Change key={s.id} setting={s} onAnswer={(value) => onAnswer(ownId(table, s), value)} />
          ))}
        </div>
      )}
    </>
  );
}

/** What is changed holds for this table alone. */
const ownId = (table: Table, s: Setting) => `${table.id}.${s.name}`;

const SHORT: Record<string, string> = {
  payer: "payer",
  kind: "a table of",
  decimal: "decimals after",
  dates: "dates read as",
  span: "columns cover",
  currency: "currency",
  unit: "amounts in",
  shares: "share counts in",
  per_share: "amounts a share in",
  encoding: "its text reads as",
  other_currency: "closes in another currency",
  after_year: "published after a year’s end, days",
  after_quarter: "published after a quarter’s end, days",
  fiscal: "first year ends",
  measure: "estimates of",
  adjusted: "adjusted closes",
  twins: "likely held already",
  strangers: "payers not held yet",
  receipts: "amounts beside receipts",
  day: "its date is",
  months: "months among years",
  declared: "its amounts are",
  numbered: "its days are numbers",
  series_kind: "it tells",
  account: "account",
  account_currency: "the account’s currency",
  section: "its rows are",
  sides: "its trades are",
  others: "rows of no known kind",
  as_of: "held on",
  price_is: "its price is",
  lots: "its rows are",
  amounts: "dividends are told",
  called: "symbols under other names",
  dividends: "dividends",
  exchange: "exchange",
  country: "country",
  payer_kind: "kind",
};

/** "account-4711" and "kind-bonus" are of what stands behind the dash. */
const short = (s: Setting) => {
  const [name = "", of = ""] = s.name.split(/-(.*)/s);
  return of ? `“${of}” is` : (SHORT[name] ?? s.asks);
};

function inWords(s: Setting): string {
  const name = s.options.find((o) => o.value === s.answer)?.name ?? s.answer ?? "";
  if (s.kind === "payer") return "";
  return `${short(s)}: ${withDates(name)}`;
}

function Change({ setting, onAnswer }: { setting: Setting; onAnswer: (value: string) => void }) {
  const [text, setText] = useState(setting.answer ?? "");
  const id = useId();
  if (setting.kind === "payer") {
    return (
      <div className="text-[14px]">
        Payer <Whose made={[]} onAnswer={onAnswer} />
      </div>
    );
  }
  if (setting.kind === "account") {
    return (
      <div className="text-[14px]">
        {short(setting)} <WhichAccount setting={setting} onAnswer={onAnswer} />
      </div>
    );
  }
  return (
    <label className="text-[14px]" htmlFor={id}>
      {short(setting)}{" "}
      {setting.options.length > 0 ? (
        <select
          id={id}
          className="field py-0.5"
          value={setting.answer ?? ""}
          onChange={(e) => onAnswer(e.target.value)}
        >
          {setting.options.map((o) => (
            <option key={o.value} value={o.value}>
              {withDates(o.name)}
            </option>
          ))}
        </select>
      ) : (
        <input
          id={id}
          className="field w-[90px] py-0.5"
          value={text}
          maxLength={setting.kind === "days" ? 3 : 60}
          onChange={(e) => setText(e.target.value)}
          onBlur={() => text.trim() && text !== setting.answer && onAnswer(text.trim())}
        />
      )}
    </label>
  );
}

interface AskProps {
  setting: Setting;
  made: Record<string, string>[];
  onAnswer: (value: string) => void;
  onPayer: (payer: Record<string, string>) => void;
}

/** One question, answered by a click or a short text. */
function Ask({ setting, made, onAnswer, onPayer }: AskProps) {
  const [text, setText] = useState(setting.guess);
  const currency = setting.name.endsWith("currency");
  const fits = currency ? /^[A-Za-z]{3}$/.test(text.trim()) : text.trim() !== "";
  return (
    <fieldset className="mt-2 rounded-md bg-sunk px-3 py-2">
      <legend className="float-left w-full pt-1 text-[15px] font-semibold sm:mr-3 sm:w-auto">
        {withDates(setting.asks)}
      </legend>
      <span className="clear-both block h-1 sm:hidden" />
      {setting.kind === "choice" && (
        <span className="flex flex-wrap gap-2">
          {setting.options.map((o) => (
            <button
              key={o.value}
              type="button"
              className="button"
              onClick={() => onAnswer(o.value)}
            >
              {withDates(o.name)}
            </button>
          ))}
        </span>
      )}
      {(setting.kind === "text" || setting.kind === "days") && (
        <form
          className="flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (fits) onAnswer(currency ? text.trim().toUpperCase() : text.trim());
          }}
        >
          <input
            className={`field ${currency ? "w-[90px] uppercase" : "w-[200px]"}`}
            aria-label={setting.asks}
            maxLength={currency ? 3 : 60}
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
          <button type="submit" className="button" disabled={!fits}>
            Use it
          </button>
        </form>
      )}
      {setting.kind === "account" && <WhichAccount setting={setting} onAnswer={onAnswer} />}
      {setting.kind === "payer" && (
        <Whose guess={setting.guess} made={made} onAnswer={onAnswer} onPayer={onPayer} />
      )}
    </fieldset>
  );
}

interface AccountProps {
  setting: Setting;
  onAnswer: (value: string) => void;
}

/** An account that is there, or a new one by its name. */
function WhichAccount({ setting, onAnswer }: AccountProps) {
  const [name, setName] = useState(setting.guess);
  return (
    <div className="flex flex-wrap items-center gap-2">
      {setting.options.map((o) => (
        <button
          key={o.value}
          type="button"
          className="button"
          aria-pressed={o.value === setting.answer}
          onClick={() => onAnswer(o.value)}
        >
          {o.name}
        </button>
      ))}
      <form
        className="flex flex-wrap items-center gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim()) onAnswer(name.trim());
        }}
      >
        {setting.options.length > 0 && <span>or a new one</span>}
        <input
          className="field w-[200px]"
          aria-label="Name of a new account"
          maxLength={60}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <button type="submit" className="button" disabled={!name.trim()}>
          Make this account
        </button>
      </form>
    </div>
  );
}

interface WhoseProps {
  guess?: string;
  made: Record<string, string>[];
  onAnswer: (value: string) => void;
  onPayer?: (payer: Record<string, string>) => void;
}

/** A payer that is stored, by its name; or a new one. */
function Whose({ guess = "", made, onAnswer, onPayer }: WhoseProps) {
  const [text, setText] = useState("");
  const [making, setMaking] = useState(false);
  const found = useNames(text, text.trim().length > 1).data ?? [];
  if (making && onPayer)
    return (
      <NewPayer
        name={text || guess}
        like={made.at(-1)}
        onMade={onPayer}
        onClose={() => setMaking(false)}
      />
    );
  return (
    <div className="flex flex-wrap items-baseline gap-2">
      <input
        className="field w-[240px]"
        aria-label="Whose is it? Name or symbol of a payer"
        placeholder="name or symbol"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      {text.trim().length > 1 &&
        found.slice(0, 6).map((f) => (
          <button
            key={`${f.exchange}/${f.symbol}`}
            type="button"
            className="button"
            onClick={() => onAnswer(`${f.exchange}/${f.symbol}`)}
          >
            {f.name}
          </button>
        ))}
      {made
        .filter(
          (p) => text.trim().length <= 1 || p.name?.toLowerCase().includes(text.toLowerCase()),
        )
        .map((p) => (
          <button
            key={p.symbol}
            type="button"
            className="button"
            onClick={() => onAnswer(`${p.exchange}/${p.symbol}`)}
          >
            {p.name} (new)
          </button>
        ))}
      {onPayer && (
        <button type="button" className="button" onClick={() => setMaking(true)}>
          {guess && !text ? `A new payer: ${guess}` : "A new payer"}
        </button>
      )}
    </div>
  );
}
