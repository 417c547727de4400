/** What the browser keeps for us may be anything: read it only in a shape that is known. */
export function readStored<T>(
  storage: Storage,
  key: string,
  fits: (raw: unknown) => raw is T,
): T | null {
  try {
    const raw: unknown = JSON.parse(storage.getItem(key) ?? "null");
    return fits(raw) ? raw : null;
  } catch {
    return null;
  }
}
