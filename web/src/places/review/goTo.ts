/** The stage one is on the way to, until all that stands above it is drawn or the person acts. Until
 * then the address keeps it. */
export const heading: { stage?: string } = {};

/** Brings a stage into sight, and the focus with it: keys then act there. */
export function goTo(stage: string) {
  heading.stage = stage;
  document.getElementById(stage)?.scrollIntoView();
  document.getElementById(`${stage}-title`)?.focus({ preventScroll: true });
}
