/** Where the flame goes, dotted over the picture: along a part, round it or all of the work, or at each join. */

import { least, most } from "../parts/extent";
import { pathOf } from "./DrawnPart";
import type { Seen, SeenPart } from "./views";

/** How the flame is held, and the part or join that this is about; of all of the work where it is about none. */
export type FlameAim = { aim: string; about: string | null };

const AT_JOINS = ["join", "each", "beside"];
const ROUND_ABOUT = ["dry", "circle", "brush", "beyond"];
/** On a plate it goes inside the edge, on wire along its middle. */
const INSIDE = 0.8;

const base = (node: string) => node.split("#")[0];

export function FlameAt({ seen, unit, flame }: { seen: Seen; unit: number; flame: FlameAim }) {
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
        <RoundAbout parts={parts} unit={unit} />
      ) : (
        parts.flatMap((part) =>
          part.lines.slice(0, 1).map(({ points, closed, width_mm }) => {
            const along = closed && width_mm === 0 ? inside(points) : points;
            return <path key={part.node} d={pathOf(along, closed)} />;
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

function RoundAbout({ parts, unit }: { parts: SeenPart[]; unit: number }) {
  const points = parts.flatMap((part) => part.lines.flatMap((line) => line.points));
  if (points.length === 0) return null;
  const { x, y, wide, high } = boxOf(points);
  const [across, down] = [wide + 16 * unit, high + 16 * unit];
  const round = Math.min(across / 2, down / 2, 27 * unit);
  return <rect x={x - across / 2} y={y - down / 2} width={across} height={down} rx={round} />;
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
