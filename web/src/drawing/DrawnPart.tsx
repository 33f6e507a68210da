import { least, most } from "../parts/extent";
import { sayLength } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import type { Handlers } from "../shell/keys";
import { heard } from "../shell/keys";
import { type Move, STEP_MM, STILL, TURN_DEG } from "./drag";
import type { PointerProps } from "./useDragging";
import type { SeenPart } from "./views";

/** A line as SVG writes it. */
export const pathOf = (points: readonly (readonly number[])[], closed: boolean) =>
  `M${points.map(([x, y]) => `${String(x)} ${String(y)}`).join("L")}${closed ? "Z" : ""}`;

type DrawnPartProps = {
  part: SeenPart;
  unit: number;
  lit: boolean;
  title: string;
  onSelect: (() => void) | undefined;
  reached: boolean;
  /** How far it has been dragged, mm of the sheet. */
  moved: readonly [number, number] | null;
  hold: (part: string) => PointerProps;
  onMove: ((move: Move) => void) | undefined;
};

/** A part where it lies: reached by the keyboard once, moved by hand and by keys. */
export function DrawnPart({
  part,
  unit,
  lit,
  title,
  onSelect,
  reached,
  moved,
  hold,
  onMove,
}: DrawnPartProps) {
  const by = (move: Partial<Move>) => onMove && (() => onMove({ ...STILL, ...move }));
  const keys: Handlers = {
    "part.choose": onSelect,
    "part.left": by({ x: -STEP_MM }),
    "part.right": by({ x: STEP_MM }),
    "part.up": by({ y: -STEP_MM }),
    "part.down": by({ y: STEP_MM }),
    "part.turn": by({ turn: TURN_DEG }),
    "part.turnBack": by({ turn: -TURN_DEG }),
  };
  if (!onSelect)
    return (
      <g aria-hidden>
        <title>{title}</title>
        <Lines part={part} unit={unit} lit={lit} />
      </g>
    );
  // Each part is reached by the keyboard once: in the first view, and the first of several alike.
  const held = reached && !/#(?!1$)/.test(part.node);
  return (
    <g
      className="drawn-part cursor-pointer"
      transform={moved ? `translate(${String(moved[0])} ${String(moved[1])})` : undefined}
      onClick={onSelect}
      role="button"
      tabIndex={held ? 0 : -1}
      aria-label={held ? `Part ${title}` : undefined}
      aria-hidden={!held}
      onKeyDown={(event) => heard(event, keys)}
      {...(onMove ? hold(part.part) : {})}
    >
      <title>{title}</title>
      <Reach part={part} unit={unit} />
      {moved && <Measure part={part} moved={moved} unit={unit} />}
      <Lines part={part} unit={unit} lit={lit} />
    </g>
  );
}

/** Where a part can be taken hold of: a thin wire too is as wide as a finger finds. */
function Reach({ part, unit }: { part: SeenPart; unit: number }) {
  const line = part.lines[0];
  if (!line) return null;
  const xs = line.points.map(([x]) => x);
  const ys = line.points.map(([, y]) => y);
  const [x, y] = [least(xs), least(ys)];
  return (
    <>
      <path
        d={pathOf(line.points, line.closed)}
        fill="none"
        stroke="transparent"
        strokeWidth={Math.max(line.width_mm, 14 * unit)}
      />
      <rect
        x={x}
        y={y}
        width={Math.max(most(xs) - x, unit)}
        height={Math.max(most(ys) - y, unit)}
        fill="none"
        stroke="none"
        className="pointer-events-none"
      />
    </>
  );
}

/** The lines of a part: wire as bands, edges thin, what is faint faint. */
function Lines({ part, unit, lit }: { part: SeenPart; unit: number; lit: boolean }) {
  const ink = lit ? "var(--accent)" : "var(--ink)";
  const fill = lit ? "var(--accent-soft)" : "var(--raised)";
  return (
    <>
      {part.lines.map((line, n) => {
        const path = pathOf(line.points, line.closed);
        const key = `${part.node}-${String(n)}`;
        if (line.faint)
          return <path key={key} d={path} fill="none" stroke="var(--hair)" strokeWidth={unit} />;
        if (line.width_mm > 0) {
          const inner = Math.max(line.width_mm - 2.4 * unit, 0);
          return (
            <g key={key} fill="none" strokeLinejoin="round">
              <path d={path} stroke={ink} strokeWidth={Math.max(line.width_mm, 2 * unit)} />
              <path d={path} stroke={fill} strokeWidth={inner} />
            </g>
          );
        }
        return (
          <path
            key={key}
            d={path}
            fill={n === 0 ? fill : "var(--ground)"}
            stroke={ink}
            strokeWidth={(lit ? 2 : 1.3) * unit}
          />
        );
      })}
    </>
  );
}

/** How far a part has been dragged, in the house's units. */
function Measure({ part, moved, unit }: { part: SeenPart; moved: readonly [number, number]; unit: number }) {
  const units = useUnits();
  const [x, y] = part.lines[0]?.points[0] ?? [0, 0];
  const words = moved.map((mm) => sayLength(Math.abs(mm), units)).join(" × ");
  return <Said at={[x, y - 10 * unit]} unit={unit} words={words} />;
}

type SaidProps = { at: readonly [number, number]; unit: number; words: string };

/** A measure beside what is moved, legible across lines. */
export function Said({ at: [x, y], unit, words }: SaidProps) {
  return (
    <text
      x={x}
      y={y}
      fontSize={15 * unit}
      stroke="var(--ground)"
      strokeWidth={4 * unit}
      paintOrder="stroke"
      fill="var(--accent)"
      className="figures select-none"
    >
      {words}
    </text>
  );
}

/** What lies under shows as a hairline through what lies on it. */
export function Outline({ part, unit }: { part: SeenPart; unit: number }) {
  const line = part.lines[0];
  if (!line || line.width_mm > 0) return null;
  return (
    <path
      d={pathOf(line.points, line.closed)}
      fill="none"
      stroke="var(--quiet)"
      strokeWidth={0.6 * unit}
      strokeDasharray={`${String(4 * unit)} ${String(3 * unit)}`}
      className="pointer-events-none"
      aria-hidden
    />
  );
}

export function Letter({ part, unit, of }: { part: SeenPart; unit: number; of: Record<string, string> }) {
  const letter = of[part.part];
  const points = part.lines[0]?.points;
  if (!letter || !points?.length || part.node.endsWith("#2")) return null;
  // On the part's own line, so that parts about one middle do not hide each other's letters.
  const [x, y] = points[Math.floor(points.length / 3)] ?? points[0] ?? [0, 0];
  return (
    <g aria-hidden className="pointer-events-none">
      <rect
        x={x - 10 * unit}
        y={y - 11 * unit}
        width={20 * unit}
        height={22 * unit}
        rx={3 * unit}
        fill="var(--lit)"
      />
      <text
        x={x}
        y={y + 5.5 * unit}
        textAnchor="middle"
        fontSize={16 * unit}
        fontWeight={700}
        fill="var(--on-lit)"
      >
        {letter}
      </text>
    </g>
  );
}

/** How many one that is drawn stands for. */
export function Batch({ part, unit }: { part: SeenPart; unit: number }) {
  const xs = part.lines.flatMap((line) => line.points.map(([x]) => x));
  const ys = part.lines.flatMap((line) => line.points.map(([, y]) => y));
  return (
    <text
      x={most(xs) + 6 * unit}
      y={least(ys) + 4 * unit}
      fontSize={14 * unit}
      fill="var(--quiet)"
      aria-hidden
    >
      {part.alike}×
    </text>
  );
}
