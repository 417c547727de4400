/** How long a component may take, in milliseconds: a slow, busy machine is no failure. The one place
 * for it, as tests/patience.py is of the rest; HEARTH_PATIENCE shortens it while a test is written. */
export const PATIENCE = 1000 * Number(process.env.HEARTH_PATIENCE ?? 180);
