import { type PointerEvent, useEffect, useRef, useState } from "react";
import { sayLength } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import { type Handlers, heard } from "../shell/keys";
import { alongMm, type Spot, withAdded, withMoved, withOut } from "./course";
import { pathOf, Said } from "./DrawnPart";
import { STEP_MM } from "./drag";
import { SLIP_PX, sheetMm } from "./useDragging";

export type CourseHandlesProps = {
  /** The points as they are drawn. */
  points: readonly Spot[];
  closed: boolean;
  unit: number;
  /** Told of the points after one was moved, put between two or taken out. */
  onChange: (points: readonly Spot[]) => void;
};

type Held = { n: number; from: Spot; mm: number; base: readonly Spot[]; points: readonly Spot[] };

/** The points of a bent wire: dragged, moved by the arrow keys, put between two, taken out; how long it comes to is told. */
export function CourseHandles({ points, closed, unit, onChange }: CourseHandlesProps) {
  const { held, take } = useHeldPoint(onChange);
  const shown = held?.points ?? points;
  const by = (n: number, x: number, y: number) => () => onChange(withMoved(points, n, [x, y]));
  const keysOf = (n: number): Handlers => ({
    "part.left": by(n, -STEP_MM, 0),
    "part.right": by(n, STEP_MM, 0),
    "part.up": by(n, 0, -STEP_MM),
    "part.down": by(n, 0, STEP_MM),
    "course.add": n < points.length - 1 ? () => onChange(withAdded(points, n)) : undefined,
    "course.out": points.length > 2 ? () => onChange(withOut(points, n)) : undefined,
  });
  const [x0, y0] = shown[held?.n ?? 0] ?? [0, 0];
  const closes = closed && isTied(points);
  return (
    <g>
      {held && <Bent points={shown} from={[x0, y0]} closed={closed} unit={unit} />}
      {!held &&
        points.slice(1).map((to, n) => {
          const key = `between-${String(n)}`;
          const hold = take(n + 1, withAdded(points, n));
          return <Between key={key} ends={[points[n] ?? to, to]} unit={unit} onPointerDown={hold} />;
        })}
      {shown.map(([x, y], n) => {
        if (closes && n === points.length - 1 && !held) return null;
        const key = `point-${String(n)}`;
        return (
          <g
            key={key}
            className="join-mark cursor-move"
            role="button"
            tabIndex={0}
            aria-label={`Point ${String(n + 1)} of ${String(points.length)}`}
            onKeyDown={(event) => heard(event, keysOf(n))}
            onPointerDown={take(n, points)}
          >
            <circle cx={x} cy={y} r={12 * unit} fill="transparent" />
            <rect
              x={x - 5.5 * unit}
              y={y - 5.5 * unit}
              width={11 * unit}
              height={11 * unit}
              fill={held?.n === n ? "var(--accent)" : "var(--ground)"}
              stroke="var(--accent)"
              strokeWidth={1.8 * unit}
            />
          </g>
        );
      })}
    </g>
  );
}

type BentProps = { points: readonly Spot[]; from: Spot; closed: boolean; unit: number };

/** How it will run while a point is held, and how long it is then. */
function Bent({ points, from: [x, y], closed, unit }: BentProps) {
  const units = useUnits();
  // Out of the bend, where no line runs through the words.
  const below = y > points.reduce((sum, [, at]) => sum + at, 0) / points.length;
  return (
    <>
      <path
        d={pathOf(points, closed)}
        fill="none"
        stroke="var(--accent)"
        strokeWidth={1.6 * unit}
        strokeDasharray={`${String(5 * unit)} ${String(3 * unit)}`}
        className="pointer-events-none"
      />
      <Said
        at={[x + 12 * unit, y + (below ? 24 : -12) * unit]}
        unit={unit}
        words={`${sayLength(alongMm(points, closed), units)} long`}
      />
    </>
  );
}

type BetweenProps = {
  ends: readonly [Spot, Spot];
  unit: number;
  onPointerDown: (event: PointerEvent<SVGGElement>) => void;
};

/** Half-way between two points: taken hold of, it is a point of its own. */
function Between({ ends: [[a, b], [x, y]], unit, onPointerDown }: BetweenProps) {
  const at = { cx: (a + x) / 2, cy: (b + y) / 2 };
  return (
    <g className="cursor-copy" aria-hidden onPointerDown={onPointerDown}>
      <title>Drag to bend it here</title>
      <circle {...at} r={9 * unit} fill="transparent" />
      <circle {...at} r={3.5 * unit} fill="var(--ground)" stroke="var(--accent)" strokeWidth={unit} />
    </g>
  );
}

/** A point that is held: it follows the hand wherever that goes, and stays where it lets go. */
function useHeldPoint(onChange: (points: readonly Spot[]) => void) {
  const [held, setHeld] = useState<Held | null>(null);
  const tell = useRef(onChange);
  tell.current = onChange;
  const holds = held !== null;
  useEffect(() => {
    if (!holds) return;
    const follow = (event: globalThis.PointerEvent) =>
      setHeld((now) => now && { ...now, points: movedTo(now, [event.clientX, event.clientY]) });
    const letGo = (event: globalThis.PointerEvent) =>
      setHeld((now) => {
        const points = now && movedTo(now, [event.clientX, event.clientY]);
        if (points && points !== now.base) queueMicrotask(() => tell.current(points));
        return null;
      });
    const leave = () => setHeld(null);
    window.addEventListener("pointermove", follow);
    window.addEventListener("pointerup", letGo);
    window.addEventListener("pointercancel", leave);
    return () => {
      window.removeEventListener("pointermove", follow);
      window.removeEventListener("pointerup", letGo);
      window.removeEventListener("pointercancel", leave);
    };
  }, [holds]);
  const take = (n: number, base: readonly Spot[]) => (event: PointerEvent<SVGGElement>) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    const from: Spot = [event.clientX, event.clientY];
    setHeld({ n, from, mm: sheetMm(event.currentTarget), base, points: base });
  };
  return { held, take };
}

/** Where the points are when the hand is there; as they were before it has moved. */
function movedTo({ n, from, mm, base }: Held, [x, y]: Spot): readonly Spot[] {
  const by: Spot = [(x - from[0]) * mm, (y - from[1]) * mm];
  return Math.hypot(x - from[0], y - from[1]) < SLIP_PX ? base : withMoved(base, n, by);
}

/** Whether the last point of a line is its first. */
function isTied(points: readonly Spot[]): boolean {
  const [a, b] = [points[0], points.at(-1)];
  return (
    a !== undefined && b !== undefined && points.length > 2 && Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-6
  );
}
