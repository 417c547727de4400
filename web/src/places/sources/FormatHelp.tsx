import { useState } from "react";
import { useTemplates } from "@/api/sources";
import { Download } from "@/ui/Download";

/** Beside the place to drop: what can be read, and templates to begin from. */
export function FormatHelp() {
  const [id, setId] = useState("");
  const shapes = useTemplates().data ?? [];
  const shape = shapes.find((s) => s.id === id) ?? shapes[0];
  if (!shape) return null;
  return (
    <section aria-labelledby="shapes" className="mt-4 lg:mt-0">
      <h2 id="shapes" className="text-[17px]">
        What a file may look like
      </h2>
      <label className="mt-1 block text-[14px] text-muted">
        Show{" "}
        <select className="field py-0.5" value={shape.id} onChange={(e) => setId(e.target.value)}>
          {shapes.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </select>
      </label>
      <div className="relative overflow-x-auto">
        <table className="mt-2 border-collapse text-[13px]">
          <caption className="sr-only">{shape.name}, an example</caption>
          <tbody>
            {shape.rows.map((row) => (
              <tr key={row.join()}>
                {row.map((cell, i) => (
                  <td
                    key={i}
                    className={`whitespace-nowrap border border-line px-2 py-0.5 ${i ? "text-right" : ""}`}
                  >
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-1 max-w-[60ch] text-[13px] text-muted">{shape.note}</p>
      <p className="mt-1 text-[14px]">
        Templates with example rows:{" "}
        <Download className="link underline" href="/api/templates/all.xlsx">
          one workbook (XLSX)
        </Download>
        {", "}
        <Download className="link underline" href={`/api/templates/${shape.id}.csv`}>
          {shape.name.toLowerCase()} (CSV)
        </Download>
      </p>
    </section>
  );
}
