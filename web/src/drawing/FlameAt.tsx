/** Where the flame goes, dotted over the picture: along a part, round it or all of the work, or at each join. */

import { least, most } from "../parts/extent";
import { pathOf } from "./DrawnPart";
import type { Seen, SeenPart } from "./views";

/** How the flame is held, and the part or join that this is about; of all of the work where it is about none. */
export type FlameAim = { aim: string; about: string | null };

export type Side = "left" | "right";

const AT_JOINS = ["join", "each", "beside"];
const ROUND_ABOUT = ["dry", "circle", "brush", "beyond"];
/** On a plate it goes inside the edge, on wire along its middle. */
const INSIDE = 0.8;

const base = (node: string) => node.split("#")[0];

export type FlameAtProps = {
  seen: Seen;
  unit: number;
  flame: FlameAim;
  /** The side at which the torch is held: the flame comes from there, and its way begins there. */
  side: Side;
};

export function FlameAt({ seen, unit, flame, side }: FlameAtProps) {
  const { aim, about } = flame;
  const of = seen.parts.filter((part) => about !== null && base(part.node) === base(about));
  const parts = of.length > 0 ? of : seen.parts;
  return (
    <g
      data-flame={aim}
      fill="none"
      stroke="var(--accent)"
      strokeWidth={5 * unit}
      strokeLinecap="round"
      strokeDasharray={`${String(0.1 * unit)} ${String(10 * unit)}`}
      className="pointer-events-none"
      aria-hidden
    >
      {AT_JOINS.includes(aim) ? (
        <AtJoins seen={seen} unit={unit} about={about} />
      ) : ROUND_ABOUT.includes(aim) ? (
        <RoundAbout parts={parts} unit={unit} side={side} />
      ) : (
        parts.flatMap((part) =>
          part.lines.slice(0, 1).map(({ points, closed, width_mm }) => {
            const along = begunAt(side, closed && width_mm === 0 ? inside(points) : points, closed);
            return (
              <g key={part.node}>
                <path d={pathOf(along, closed)} />
                <Begins at={along[0]} unit={unit} />
              </g>
            );
          }),
        )
      )}
    </g>
  );
}

function AtJoins({ seen, unit, about }: { seen: Seen; unit: number; about: string | null }) {
  const own = seen.joins.filter(({ join }) => join === about);
  return (own.length > 0 ? own : seen.joins).flatMap(({ join, spots }) =>
    spots.map(([x, y], n) => <circle key={`${join}-${String(n)}`} cx={x} cy={y} r={17 * unit} />),
  );
}

function RoundAbout({ parts, unit, side }: { parts: SeenPart[]; unit: number; side: Side }) {
  const points = parts.flatMap((part) => part.lines.flatMap((line) => line.points));
  if (points.length === 0) return null;
  const { x, y, wide, high } = boxOf(points);
  const [across, down] = [wide + 16 * unit, high + 16 * unit];
  const round = Math.min(across / 2, down / 2, 27 * unit);
  const end = side === "left" ? x - across / 2 : x + across / 2;
  return (
    <>
      <rect x={x - across / 2} y={y - down / 2} width={across} height={down} rx={round} />
      <Begins at={[end, y]} unit={unit} />
    </>
  );
}

/** Where the way of the flame begins. */
function Begins({ at, unit }: { at: readonly number[] | undefined; unit: number }) {
  const [x, y] = at ?? [];
  return <circle data-begins cx={x} cy={y} r={6 * unit} fill="var(--accent)" stroke="none" />;
}

/** A way as it is gone from one side: an open one from its end there, a closed one from its outermost point there. */
export function begunAt(
  side: Side,
  points: readonly (readonly number[])[],
  closed: boolean,
): readonly (readonly number[])[] {
  const out = (point: readonly number[] | undefined) => (point?.[0] ?? 0) * (side === "left" ? -1 : 1);
  if (!closed) return out(points[0]) >= out(points.at(-1)) ? points : points.toReversed();
  const first = points.reduce((best, point, n) => (out(point) > out(points[best]) ? n : best), 0);
  return [...points.slice(first), ...points.slice(0, first)];
}

function inside(points: readonly (readonly number[])[]): number[][] {
  const { x, y } = boxOf(points);
  return points.map(([px = 0, py = 0]) => [x + (px - x) * INSIDE, y + (py - y) * INSIDE]);
}

function boxOf(points: readonly (readonly number[])[]) {
  const xs = points.map(([x = 0]) => x);
  const ys = points.map(([, y = 0]) => y);
  const [left, right, top, low] = [least(xs), most(xs), least(ys), most(ys)];
  return { x: (left + right) / 2, y: (top + low) / 2, wide: right - left, high: low - top };
}
