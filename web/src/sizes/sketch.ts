/** A drawing in mm laid out on screen: one scale for both ways, y turned down, a bar that says how long a length is. */
import type { Sketch } from "../api/types";

export type Spot = [number, number];
export type Laid = { scale: number; place: (spot: Spot) => Spot; bar: { mm: number; px: number } };

/** Fit a drawing into a box of pixels with a margin all round; `beside` leaves room for words at its sides. */
export function layOut(sketch: Sketch, width: number, height: number, margin: number, beside = margin): Laid {
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
    bar: barFor(scale),
  };
}

/** Choose a bar of 1, 2 or 5 times a power of ten that is some 40 to 110 pixels long. */
export function barFor(scale: number): { mm: number; px: number } {
  const wanted = 100 / scale;
  const power = 10 ** Math.floor(Math.log10(wanted));
  const mm = [5, 2, 1].map((one) => one * power).find((one) => one <= wanted) ?? power;
  return { mm: Number(mm.toPrecision(1)), px: round(mm * scale) };
}

const round = (value: number) => Math.round(value * 100) / 100;
