/** The stage one is on the way to, or has come to, until the person acts or it is out of sight. Until
 * then the address keeps it. drawn: all that stands above it is. */
export const heading: { stage?: string; drawn?: boolean } = {};

/** Brings a stage into sight, and the focus with it: keys then act there. */
export function goTo(stage: string) {
  heading.stage = stage;
  document.getElementById(stage)?.scrollIntoView();
  document.getElementById(`${stage}-title`)?.focus({ preventScroll: true });
}

/** Whether a scroll is the page's own: what still grows above a stage moves it where it stands. */
export function keptAtHeading(): boolean {
  if (!heading.stage) return false;
  const at = document.getElementById(heading.stage)?.getBoundingClientRect();
  if (!heading.drawn || (at && at.top < window.innerHeight && at.bottom > 0)) return true;
  heading.stage = undefined;
  return false;
}
