const KEY = "hearth.theme";
export type Theme = "light" | "dark";

export function currentTheme(): Theme {
  const kept = localStorage.getItem(KEY);
  if (kept === "light" || kept === "dark") return kept;
  return matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
}

export function applyTheme(theme: Theme = currentTheme()) {
  document.documentElement.dataset.theme = theme;
}

export function switchTheme(): Theme {
  const next = currentTheme() === "dark" ? "light" : "dark";
  localStorage.setItem(KEY, next);
  applyTheme(next);
  return next;
}
