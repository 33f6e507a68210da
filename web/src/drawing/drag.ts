/** Parts moved on the picture: how far a hand or a key moves one, and what it snaps to. */
import type { Part, Picture } from "../api/types";
import type { View } from "./views";

export const STEP_MM = 0.5;
export const TURN_DEG = 15;
/** Nearer than so many pixels to the middle or the edge of another part, it snaps there. */
const SNAP_PX = 6;

export type Move = { x: number; y: number; z: number; turn: number };
export const STILL: Move = { x: 0, y: 0, z: 0, turn: 0 };

/** The place of a part when it is moved: from where it is drawn, whether it was put there or set beside what it joins. */
export function placeAfter(part: Part, picture: Picture, move: Move): NonNullable<Part["place"]> {
  const drawn = picture.parts.find((one) => one.part === part.id);
  const stands = part.place?.stands ?? (drawn && standsUp(part, drawn) ? "upright" : "flat");
  const from = part.place ?? { turn_deg: 0 };
  const turned = (from.turn_deg + move.turn) % 360;
  return {
    x_mm: tidy((drawn?.x_mm ?? 0) + move.x),
    y_mm: tidy((drawn?.y_mm ?? 0) + move.y),
    z_mm: tidy((drawn?.low_mm ?? 0) + move.z),
    turn_deg: turned > 180 ? turned - 360 : turned <= -180 ? turned + 360 : turned,
    stands,
  };
}

/** A straight part that is drawn higher than it is wide stands. */
const standsUp = (part: Part, drawn: Picture["parts"][number]) =>
  "length_mm" in part.form && drawn.high_mm - drawn.low_mm > 0.9 * part.form.length_mm;

const tidy = (mm: number) => Math.round(mm * 20) / 20;

/** Move a part so far as the hand did, but on to the middle or an edge of another that is near; `unit` is a pixel, mm. */
export function snapped(
  picture: Picture,
  part: string,
  view: View,
  by: readonly [number, number],
  unit: number,
): Move {
  const own = picture.parts.find((one) => one.part === part);
  if (!own) return STILL;
  const others = picture.parts.filter((one) => one.part !== part && one.alike > 0);
  const x =
    by[0] +
    nearest(
      linesOf(own.x_mm + by[0], own.width_mm),
      others.flatMap((one) => linesOf(one.x_mm, one.width_mm)),
      SNAP_PX * unit,
    );
  if (view === "front") {
    const low = own.low_mm - by[1];
    const on = others.flatMap((one) => [one.low_mm, one.high_mm]);
    const up = -by[1] + nearest([low, low + own.high_mm - own.low_mm], on, SNAP_PX * unit);
    return { ...STILL, x, z: up };
  }
  const y =
    by[1] +
    nearest(
      linesOf(own.y_mm + by[1], own.height_mm),
      others.flatMap((one) => linesOf(one.y_mm, one.height_mm)),
      SNAP_PX * unit,
    );
  return { ...STILL, x, y };
}

const linesOf = (middle: number, wide: number) => [middle, middle - wide / 2, middle + wide / 2];

/** How far it is from one of some lines to the nearest of others, where that is within reach; else nothing. */
function nearest(own: readonly number[], others: readonly number[], reach: number): number {
  const ways = own
    .flatMap((one) => others.map((other) => other - one))
    .filter((way) => Math.abs(way) <= reach);
  return ways.reduce((best, way) => (Math.abs(way) < Math.abs(best) ? way : best), ways[0] ?? 0);
}
