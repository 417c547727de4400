/** Brings a stage into sight, and the focus with it: keys then act there. */
export function goTo(stage: string) {
  document.getElementById(stage)?.scrollIntoView();
  document.getElementById(`${stage}-title`)?.focus({ preventScroll: true });
}
