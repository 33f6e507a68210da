/** Whether this device's clock was set while a run was followed. */

const runsAhead = (): number => Date.now() - performance.now();
let known = runsAhead();

/**
 * By how much the clock was set back since it was last asked, ms. A clock never goes back by itself, so that much is certain;
 * one that has jumped ahead may have been asleep, and only the server knows.
 */
export function setBackBy(): number {
  const now = runsAhead();
  const back = known - now;
  known = now;
  return back > 1_000 ? Math.round(back) : 0;
}
