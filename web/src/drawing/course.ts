/** The points along which wire or strip is bent, moved on the picture: from where they are drawn back to the part. */
import type { Part, Picture } from "../api/types";
import { least, most } from "../parts/extent";

export type Spot = readonly [number, number];

/** The points of a part that is bent along points, as they are drawn from above; none of any other. */
export function courseOf(part: Part, picture: Picture): readonly Spot[] | null {
  const path = pathOf(part);
  const drawn = picture.parts.find((one) => one.part === part.id && one.alike > 0)?.lines[0]?.points;
  return path && drawn?.length === path.length ? (drawn as readonly Spot[]) : null;
}

const pathOf = (part: Part): readonly Spot[] | null =>
  "path" in part.form && Array.isArray(part.form.path) ? (part.form.path as readonly Spot[]) : null;

/** How long a line is along its points, mm; once round where it is closed. */
export function alongMm(points: readonly Spot[], closed: boolean): number {
  const ends = closed && points.length > 2 ? [...points, points[0] as Spot] : points;
  return ends
    .slice(1)
    .reduce((sum, [x, y], n) => sum + Math.hypot(x - at(ends, n)[0], y - at(ends, n)[1]), 0);
}

const at = (points: readonly Spot[], n: number): Spot => points[n] ?? [0, 0];
const tidy = (mm: number) => Math.round(mm * 100) / 100;

/** Move one of the points; the end of a closed line that is its beginning goes with it. */
export function withMoved(points: readonly Spot[], n: number, by: Spot): Spot[] {
  const last = points.length - 1;
  const tied =
    Math.hypot(at(points, 0)[0] - at(points, last)[0], at(points, 0)[1] - at(points, last)[1]) < 1e-6;
  const moves = (k: number) => k === n || (tied && (k === 0 || k === last) && (n === 0 || n === last));
  return points.map(([x, y], k) => (moves(k) ? [x + by[0], y + by[1]] : [x, y]));
}

/** Put a point between one and the next. */
export function withAdded(points: readonly Spot[], n: number): Spot[] {
  const [a, b] = [at(points, n), at(points, n + 1)];
  return [...points.slice(0, n + 1), [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2], ...points.slice(n + 1)];
}

/** Take a point out; two are left at the least. */
export const withOut = (points: readonly Spot[], n: number): readonly Spot[] =>
  points.length > 2 ? points.filter((_, k) => k !== n) : points;

/**
 * The part bent along points that were moved where they are drawn: its path and length, and its place, so that what was not
 * moved stays where it is. A part that was never put anywhere is laid out anew.
 */
export function bentAlong(part: Part, picture: Picture, drawn: readonly Spot[]): Partial<Part> {
  const path = pathOf(part);
  const before = courseOf(part, picture);
  if (!path || !before || !("path" in part.form)) return {};
  const turn = turnBetween(path, before);
  const back = ([x, y]: Spot): Spot => [
    x * Math.cos(turn) + y * Math.sin(turn),
    y * Math.cos(turn) - x * Math.sin(turn),
  ];
  const first = back(at(before, 0));
  const origin = at(path, 0);
  const made = drawn.map((point): [number, number] => {
    const [x, y] = back(point);
    return [tidy(x - first[0] + origin[0]), tidy(y - first[1] + origin[1])];
  });
  const closed = part.form.closed;
  const form = { ...part.form, path: made, length_mm: tidy(alongMm(made, closed)) };
  if (!part.place) return { form };
  const middle = middleOf(made);
  const [mx, my] = [middle[0] - origin[0], middle[1] - origin[1]];
  const [x0, y0] = at(before, 0);
  const place = {
    ...part.place,
    x_mm: tidy(x0 + mx * Math.cos(turn) - my * Math.sin(turn)),
    y_mm: tidy(y0 + mx * Math.sin(turn) + my * Math.cos(turn)),
  };
  return { form, place };
}

/** How far a line is turned where it is drawn, by the point that lies farthest from its first. */
function turnBetween(path: readonly Spot[], drawn: readonly Spot[]): number {
  const far = path.reduce((best, _, n) => (awayFrom(path, n) > awayFrom(path, best) ? n : best), 0);
  return headingTo(drawn, far) - headingTo(path, far);
}

const awayFrom = (points: readonly Spot[], n: number) =>
  Math.hypot(at(points, n)[0] - at(points, 0)[0], at(points, n)[1] - at(points, 0)[1]);
const headingTo = (points: readonly Spot[], n: number) =>
  Math.atan2(at(points, n)[1] - at(points, 0)[1], at(points, n)[0] - at(points, 0)[0]);

/** The middle of the box that holds some points: a part is put down by it. */
function middleOf(points: readonly Spot[]): Spot {
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  return [(least(xs) + most(xs)) / 2, (least(ys) + most(ys)) / 2];
}
