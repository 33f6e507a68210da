/** How strong the torch is today by the signs pressed so far, and how long the rest will take: the core's own function (`run/`). */

const TORCH_SPREAD = 0.25;
const PRESSED_SPREAD = 0.1;
const PRESSED_S = 1;
const WEAK = 1.15;

export type Today = { longer: number; leftS: number; words: string };

/**
 * What is left of a heat from when the sign of its latest stage was pressed; null before the first, and after the last.
 * `stagesS` is how long each stage was foretold to take, s; `pressedS` when the sign of which (0 the first) was pressed, s from the lit flame.
 */
export function toldAnew(stagesS: number[], pressedS: Map<number, number>, what: string): Today | null {
  const last = Math.max(-1, ...[...pressedS.keys()].filter((n) => n >= 0 && n < stagesS.length));
  if (last < 0 || last === stagesS.length - 1) return null;
  const foretold = sum(stagesS.slice(0, last + 1));
  const took = pressedS.get(last) ?? 0;
  if (foretold <= 0 || took <= 0) return null;
  const off = Math.hypot(PRESSED_SPREAD, PRESSED_S / foretold);
  const sure = TORCH_SPREAD ** 2 / (TORCH_SPREAD ** 2 + off ** 2);
  const longer = Math.exp(sure * Math.log(took / foretold));
  const left = longer * sum(stagesS.slice(last + 1));
  const flame = longer > WEAK ? "; a weak flame today" : longer < 1 / WEAK ? "; a strong flame today" : "";
  return {
    longer: rounded(longer, 2),
    leftS: rounded(left, 1),
    words: `${what} in about ${String(rounded(left, 0))} s${flame}`,
  };
}

const sum = (all: number[]): number => all.reduce((a, b) => a + b, 0);
const rounded = (value: number, digits: number): number => Math.round(value * 10 ** digits) / 10 ** digits;
