import { Link } from "@tanstack/react-router";
import { Keyboard, Moon, Printer, Sun, Table2 } from "lucide-react";
import { useState } from "react";
import { printPage, usePrinting } from "@/state/printing";
import { currentTheme, switchTheme } from "./theme";

const PLACES = [
  { to: "/", name: "Hearth" },
  { to: "/payers", name: "Payers" },
  { to: "/compare", name: "Compare" },
  { to: "/watch", name: "Watch" },
  { to: "/holdings", name: "Holdings" },
  { to: "/journal", name: "Journal" },
  { to: "/house-rules", name: "House rules" },
  { to: "/sources", name: "Sources" },
] as const;

interface Props {
  /** Signals that are new. */
  unseen: number;
  onKeys: () => void;
  onTables: () => void;
}

export function Spine({ unseen, onKeys, onTables }: Props) {
  const [theme, setTheme] = useState(currentTheme);
  const printing = usePrinting();
  const Icon = theme === "dark" ? Sun : Moon;
  return (
    <nav
      aria-label="Places"
      className="flex flex-wrap items-center gap-1 border-line border-b bg-paper px-3 py-2 lg:sticky lg:flex-nowrap lg:top-0 lg:h-screen lg:flex-col lg:items-stretch lg:border-r lg:border-b-0 lg:px-0 lg:py-[18px]"
    >
      <Link
        to="/"
        className="mr-1 flex items-center gap-2 px-1 sm:mr-3 font-serif font-semibold text-[18px] leading-[1.1] lg:mr-0 lg:block lg:px-4 lg:pb-4"
      >
        <Mark />
        <span>
          Hearth <br className="hidden lg:inline" />
          Yield
        </span>
      </Link>
      {PLACES.map((place) => (
        <Link
          key={place.to}
          to={place.to}
          activeOptions={{ exact: place.to === "/", includeSearch: false }}
          search={(before) => ({ as_of: before.as_of })}
          className="min-h-[38px] border-transparent px-2 py-[7px] sm:px-3 text-[15px] text-muted hover:text-ink lg:border-l-[3px] lg:px-4"
          activeProps={{ className: "font-semibold text-ink! bg-sunk lg:border-l-action!" }}
        >
          {place.name}
          {place.to === "/" && unseen > 0 && (
            <span className="ml-2 text-[13px] font-semibold text-action">
              {unseen}
              <span className="sr-only"> new</span>
            </span>
          )}
        </Link>
      ))}
      <div className="ml-auto flex gap-1 lg:mt-auto lg:ml-0 lg:px-2">
        <button
          type="button"
          className="rounded p-1.5 text-muted hover:text-ink"
          aria-label={theme === "dark" ? "Light theme" : "Dark theme"}
          onClick={() => setTheme(switchTheme())}
        >
          <Icon size={18} />
        </button>
        <button
          type="button"
          className="rounded p-1.5 text-muted hover:text-ink"
          aria-label="Copy or save a table"
          title="Copy or save a table"
          onClick={onTables}
        >
          <Table2 size={18} />
        </button>
        <button
          type="button"
          className="rounded p-1.5 text-muted hover:text-ink disabled:opacity-50"
          aria-label="Print this page"
          title="Print this page"
          disabled={printing}
          onClick={() => void printPage()}
        >
          <Printer size={18} />
        </button>
        <button
          type="button"
          className="hidden rounded p-1.5 text-muted hover:text-ink lg:block"
          aria-label="Keys"
          onClick={onKeys}
        >
          <Keyboard size={18} />
        </button>
      </div>
    </nav>
  );
}

function Mark() {
  return (
    <svg width="26" height="26" viewBox="0 0 26 26" aria-hidden="true" className="lg:mb-2">
      <path d="M3 24V12a10 10 0 0 1 20 0v12" fill="none" stroke="var(--ink)" strokeWidth="2.2" />
      <path
        d="M8 22.500h10M9 18.200h8M10.800 14h4.400"
        stroke="var(--action)"
        strokeWidth="2.4"
        strokeLinecap="round"
      />
    </svg>
  );
}
