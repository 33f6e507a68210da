import type { CSSProperties, KeyboardEvent } from "react";
import type { Picture } from "../api/types";
import { barFor } from "../parts/scaleBar";
import { sayLength } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import { type Handlers, heard } from "../shell/keys";
import { type Move, STEP_MM, STILL, TURN_DEG } from "./drag";
import { type PointerProps, shiftOf, useDragging } from "./useDragging";
import { type Seen, seenFrom, type View } from "./views";

export type Selection = { kind: "part" | "join" | "work"; id: string } | null;
export type PictureViewProps = {
  picture: Picture;
  /** How large it is shown, in pixels; lines and marks keep their thickness by it. */
  size?: readonly [width: number, height: number];
  plain?: boolean;
  /** From where it is seen: from above, from the front, or both side by side at one scale. */
  views?: readonly View[];
  selected?: Selection;
  titles?: Record<string, string>;
  /** Letters that stand on the parts, by part: what is pointed at by keys. */
  letters?: Record<string, string>;
  onSelect?: (selection: Selection) => void;
  /** Told of a part that is moved, by hand or by keys. */
  onMove?: (part: string, move: Move) => void;
};

const USUAL = [640, 400] as const;
const ABOVE: readonly View[] = ["above"];

/** A piece drawn to scale: wire as bands, edges as thin lines, what lies under thinner, joins as numbered marks. */
export function PictureView({
  picture,
  size = USUAL,
  plain,
  views = ABOVE,
  selected,
  titles = {},
  letters,
  onSelect,
  onMove,
}: PictureViewProps) {
  const { seen, width, height, unit } = seenFrom(picture, views, size);
  const margin = unit * (plain ? 3 : 30);
  const box = [-margin, -margin, width + 2 * margin, height + 2 * margin];
  return (
    <svg
      viewBox={box.join(" ")}
      className="h-full w-full"
      role={plain ? undefined : "group"}
      aria-label={plain ? undefined : "The piece to scale"}
    >
      {seen.map((one, n) => (
        <g key={one.view} transform={`translate(${String(one.x)} ${String(one.y)})`}>
          <DrawnView
            seen={one}
            unit={unit}
            plain={plain === true}
            selected={selected ?? null}
            titles={titles}
            letters={letters}
            // Both views show the same joins: the keyboard goes through them once.
            reached={n === 0}
            onSelect={onSelect}
            picture={picture}
            onMove={letters ? undefined : onMove}
          />
        </g>
      ))}
      {!plain && <ScaleBar x={box[0] ?? 0} y={(box[1] ?? 0) + (box[3] ?? 0)} unit={unit} />}
    </svg>
  );
}

type DrawnViewProps = {
  seen: Seen;
  unit: number;
  plain: boolean;
  selected: Selection;
  titles: Record<string, string>;
  letters: Record<string, string> | undefined;
  reached: boolean;
  onSelect: ((selection: Selection) => void) | undefined;
  picture: Picture;
  onMove: ((part: string, move: Move) => void) | undefined;
};

function DrawnView(props: DrawnViewProps) {
  const { seen, unit, plain, selected, titles, letters, reached, onSelect, picture, onMove } = props;
  const { moving, hold } = useDragging(picture, seen.view, unit, onMove);
  const among = selected?.kind === "join" ? selected.id : null;
  return (
    <>
      {seen.parts.map((part) => (
        <DrawnPart
          key={part.node}
          part={part}
          unit={unit}
          lit={selected?.kind === "part" && selected.id === part.part}
          title={titles[part.part] ?? part.part}
          onSelect={onSelect && (() => onSelect({ kind: "part", id: part.part }))}
          reached={reached}
          moved={moving?.part === part.part ? shiftOf(moving.move, seen.view) : null}
          hold={hold}
          onMove={onMove && ((move) => onMove(part.part, move))}
        />
      ))}
      {seen.parts.map((part) => (
        <Outline key={part.node} part={part} unit={unit} />
      ))}
      {!plain &&
        seen.joins.flatMap((mark) =>
          mark.spots.map(([x, y], n) => (
            <JoinMark
              key={`${mark.join}-${String(n)}`}
              x={x}
              y={y}
              unit={unit}
              number={mark.number}
              lit={among === mark.join}
              title={titles[mark.join] ?? mark.join}
              onSelect={onSelect && (() => onSelect({ kind: "join", id: mark.join }))}
              reached={reached}
            />
          )),
        )}
      {seen.parts.map((part) => part.alike > 1 && <Batch key={part.node} part={part} unit={unit} />)}
      {letters && seen.parts.map((part) => <Letter key={part.node} part={part} unit={unit} of={letters} />)}
    </>
  );
}

/** What lies under shows as a hairline through what lies on it. */
function Outline({ part, unit }: { part: Seen["parts"][number]; unit: number }) {
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

function Letter({
  part,
  unit,
  of,
}: {
  part: Seen["parts"][number];
  unit: number;
  of: Record<string, string>;
}) {
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
function Batch({ part, unit }: { part: Seen["parts"][number]; unit: number }) {
  const xs = part.lines.flatMap((line) => line.points.map(([x]) => x));
  const ys = part.lines.flatMap((line) => line.points.map(([, y]) => y));
  return (
    <text
      x={Math.max(...xs) + 6 * unit}
      y={Math.min(...ys) + 4 * unit}
      fontSize={14 * unit}
      fill="var(--quiet)"
      aria-hidden
    >
      {part.alike}×
    </text>
  );
}

const pathOf = (points: readonly (readonly number[])[], closed: boolean) =>
  `M${points.map(([x, y]) => `${String(x)} ${String(y)}`).join("L")}${closed ? "Z" : ""}`;

type DrawnPartProps = {
  part: Seen["parts"][number];
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

function DrawnPart({ part, unit, lit, title, onSelect, reached, moved, hold, onMove }: DrawnPartProps) {
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
function Reach({ part, unit }: { part: Seen["parts"][number]; unit: number }) {
  const line = part.lines[0];
  if (!line) return null;
  const xs = line.points.map(([x]) => x);
  const ys = line.points.map(([, y]) => y);
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
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
        width={Math.max(Math.max(...xs) - x, unit)}
        height={Math.max(Math.max(...ys) - y, unit)}
        fill="none"
        stroke="none"
        className="pointer-events-none"
      />
    </>
  );
}

/** The lines of a part: wire as bands, edges thin, what is faint faint. */
function Lines({ part, unit, lit }: { part: Seen["parts"][number]; unit: number; lit: boolean }) {
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
function Measure({
  part,
  moved,
  unit,
}: {
  part: Seen["parts"][number];
  moved: readonly [number, number];
  unit: number;
}) {
  const units = useUnits();
  const [x, y] = part.lines[0]?.points[0] ?? [0, 0];
  const words = moved.map((mm) => sayLength(Math.abs(mm), units)).join(" × ");
  return (
    <text x={x} y={y - 10 * unit} fontSize={14 * unit} fill="var(--accent)" className="figures select-none">
      {words}
    </text>
  );
}

type JoinMarkProps = {
  x: number;
  y: number;
  unit: number;
  number: number;
  lit: boolean;
  title: string;
  onSelect: (() => void) | undefined;
  reached: boolean;
};

function JoinMark({ x, y, unit, number, lit, title, onSelect, reached }: JoinMarkProps) {
  const press = (event: KeyboardEvent) => {
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      onSelect?.();
    }
  };
  return (
    <g
      role={reached ? "button" : undefined}
      tabIndex={onSelect && reached ? 0 : -1}
      aria-hidden={!reached}
      aria-label={reached ? `Join ${String(number)}, ${title}` : undefined}
      className="join-mark cursor-pointer"
      style={{ "--ring": 3 * unit } as CSSProperties}
      onClick={onSelect}
      onKeyDown={press}
    >
      <title>{title}</title>
      <circle
        cx={x}
        cy={y}
        r={(lit ? 12 : 9.5) * unit}
        fill={lit ? "var(--accent)" : "var(--ground)"}
        stroke="var(--accent)"
        strokeWidth={1.4 * unit}
      />
      <text
        x={x}
        y={y + 4.3 * unit}
        textAnchor="middle"
        fontSize={12.5 * unit}
        fontWeight={700}
        fill={lit ? "var(--on-accent)" : "var(--accent)"}
        className="select-none"
      >
        {number}
      </text>
    </g>
  );
}

/** A bar of a round length, so that the eye knows the size. */
function ScaleBar({ x, y, unit }: { x: number; y: number; unit: number }) {
  const units = useUnits();
  const { mm: length, words } = barFor(1 / unit, units);
  const left = x + 8 * unit;
  const low = y - 8 * unit;
  return (
    <g aria-hidden>
      <path
        d={`M${left} ${low - 5 * unit}V${low}H${left + length}V${low - 5 * unit}`}
        fill="none"
        stroke="var(--quiet)"
        strokeWidth={unit}
      />
      <text x={left + length + 6 * unit} y={low} fontSize={12.5 * unit} fill="var(--quiet)">
        {words}
      </text>
    </g>
  );
}
