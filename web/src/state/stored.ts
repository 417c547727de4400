/** What the browser keeps for us may be anything: read it only in a shape that is known. */
export function readStored<T>(
  storage: Storage,
  key: string,
  fits: (raw: unknown) => raw is T,
): T | null {
  try {
    return parsed(storage.getItem(key), fits);
  } catch {
    return null;
  }
}

/** JSON in a shape that is known; null for anything else. */
export function parsed<T>(text: string | null, fits: (raw: unknown) => raw is T): T | null {
  try {
    const raw: unknown = JSON.parse(text ?? "null");
    return fits(raw) ? raw : null;
  } catch {
    return null;
  }
}
