/** A drawing in mm laid out on screen: one scale for both ways, y turned down, a bar that says how long a length is. */
import type { Sketch } from "../api/types";
import { type Bar, barFor } from "../parts/scaleBar";
import { METRIC } from "../parts/units";

export type Spot = [number, number];
export type Laid = { scale: number; place: (spot: Spot) => Spot; bar: Bar };

/** Fit a drawing into a box of pixels with a margin all round; `beside` leaves room for words at its sides. */
export function layOut(
  sketch: Sketch,
  width: number,
  height: number,
  margin: number,
  beside = margin,
  units = METRIC,
): Laid {
  const [left, low] = sketch.low;
  const [right, high] = sketch.high;
  const across = Math.max(right - left, 1e-3);
  const up = Math.max(high - low, 1e-3);
  const scale = Math.min((width - 2 * beside) / across, (height - 2 * margin) / up);
  const shift = (width - across * scale) / 2;
  const drop = (height - up * scale) / 2;
  return {
    scale,
    place: ([x, y]) => [round(shift + (x - left) * scale), round(drop + (high - y) * scale)],
    bar: barFor(scale, units),
  };
}

const round = (value: number) => Math.round(value * 100) / 100;
