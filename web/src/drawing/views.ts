/** A picture seen from above, from the front, or both: laid side by side at one scale. */
import type { Picture } from "../api/types";
import { least, most } from "../parts/extent";

export type View = "above" | "front";

type Line = Picture["parts"][number]["lines"][number];
export type SeenPart = { node: string; part: string; lines: readonly Line[]; alike: number };
export type SeenMark = { join: string; number: number; spots: readonly (readonly [number, number])[] };

/** One view: where its own zero stands on the sheet, mm; its parts, the lowest first. */
export type Seen = { view: View; x: number; y: number; parts: SeenPart[]; joins: SeenMark[] };

export type SeenSheet = { seen: Seen[]; width: number; height: number; unit: number };

type Box = { left_mm: number; top_mm: number; width_mm: number; height_mm: number };
const GAP_PX = 36;
const MARK_PX = 21;
const STACKED_MM = 0.5;
// Where a mark goes that another would hide: to the right, to the left, farther to the right.
const BESIDE = [0, 1, -1, 2];

/** Lay the views out for so many pixels; `unit` is about one pixel, mm. */
export function seenFrom(
  picture: Picture,
  views: readonly View[],
  [wide, high]: readonly [number, number],
): SeenSheet {
  const boxes = views.map((view): Box => (view === "above" ? picture : picture.front));
  const width = boxes.reduce((sum, box) => sum + box.width_mm, 0);
  const height = most(boxes.map((box) => box.height_mm));
  const room = wide - 8 - GAP_PX * (views.length - 1);
  const unit = Math.max(width / room, height / (high - 8), 0.001);
  let left = 0;
  const seen = views.map((view, n): Seen => {
    const box = boxes[n] ?? picture;
    const x = left - box.left_mm;
    const y = (height - box.height_mm) / 2 - box.top_mm;
    left += box.width_mm + GAP_PX * unit;
    return view === "above"
      ? { view, x, y, parts: fromAbove(picture), joins: apart(picture.joins, MARK_PX * unit) }
      : { view, x, y, parts: fromFront(picture), joins: apart(picture.front.joins, MARK_PX * unit) };
  });
  return { seen, width: left - GAP_PX * unit, height, unit };
}

/** What lies lower is drawn first; of two at one height the larger. */
export const lowestFirst = (parts: Picture["parts"]): Picture["parts"] =>
  [...parts].sort(
    (one, other) =>
      one.low_mm - other.low_mm || other.width_mm * other.height_mm - one.width_mm * one.height_mm,
  );

/** The parts from above; what stands for none of a batch is left out. */
const fromAbove = (picture: Picture): SeenPart[] =>
  lowestFirst(picture.parts.filter((part) => part.alike > 0));

/** From the front what is nearer, lower on the page from above, is drawn last; a stone before the cup that it is in. */
function fromFront(picture: Picture): SeenPart[] {
  const placed = new Map(picture.parts.map((part) => [part.node, part]));
  return picture.front.parts
    .flatMap((seen) => {
      const part = placed.get(seen.node);
      return part && part.alike > 0
        ? [{ ...seen, alike: part.alike, y: part.y_mm, wide: part.width_mm }]
        : [];
    })
    .sort((one, other) => one.y - other.y || one.wide - other.wide);
}

/** Both views, where anything lies on anything; a flat piece is seen from above alone. */
export function viewsOf(picture: Picture): readonly View[] {
  const shown = picture.parts.filter((part) => part.alike > 0);
  const lows = shown.map((part) => part.low_mm);
  const highs = shown.map((part) => part.high_mm);
  const stacked = most(lows) - least(lows) > STACKED_MM;
  const tall = most(highs) - least(lows) > 0.4 * picture.height_mm && shown.length > 1;
  return stacked || tall ? ["front", "above"] : ["above"];
}

/** Marks that would hide each other stand side by side, a few of them: further ones stay where they are. */
export function apart(marks: readonly SeenMark[], reach: number): SeenMark[] {
  const taken: [number, number][] = [];
  return marks.map((mark) => ({
    ...mark,
    spots: mark.spots.map(([x, y]) => {
      const hidden = ([left, top]: [number, number]) =>
        taken.some(([a, b]) => Math.hypot(a - left, b - top) < reach * 0.9);
      const spots = BESIDE.map((n): [number, number] => [x + n * reach, y]);
      const at = spots.find((spot) => !hidden(spot)) ?? [x, y];
      taken.push(at);
      return at;
    }),
  }));
}
