/** Files that the API makes: fetched first, so that a refusal can be told where the person is. */
import { answer, Refusal } from "./client";

export interface Made {
  blob: Blob;
  name: string;
}

/** A file under the name that its answer gives it. Raises a Refusal with the API's own words. */
export async function fetchFile(address: string, init?: RequestInit): Promise<Made> {
  const response = await answer(
    fetch(address, init).then(async (got) => ({
      data: got,
      error: got.ok ? undefined : await got.json().catch(() => undefined),
      response: got,
    })),
  );
  const told = /filename="([^"]+)"/.exec(response.headers.get("content-disposition") ?? "")?.[1];
  try {
    return { blob: await response.blob(), name: told ?? "hearth-yield" };
  } catch {
    throw new Refusal({
      type: "about:broken-off",
      title: "The file did not arrive whole",
      status: 0,
      detail: "Its delivery broke off and nothing was saved. Is the program still running?",
    });
  }
}

/** Given to the person as their browser saves files. */
export function saveFile({ blob, name }: Made) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
