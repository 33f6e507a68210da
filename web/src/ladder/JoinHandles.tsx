import { useRef, useState } from "react";
import type { PieceDocument } from "../api/types";
import type { Hands, Target } from "../document/moves";
import type { Selection } from "../drawing/PictureView";
import { type Handlers, heard } from "../shell/keys";
import { type Column, type LadderShape, targetAt } from "./geometry";
import { clip, wrap } from "./wrap";

const MOST_NAMED = 3;
const LINE = 17;
const SLACK = 6;

export type JoinHandlesProps = {
  shape: LadderShape;
  document: PieceDocument;
  selected: Selection;
  hands: Hands;
};

type Drag = { join: string; title: string; x: number; y: number; far: boolean; target: Target | null };

/**
 * The names of the joins under their heats. Each can be dragged into another heat or between two; with the keyboard,
 * Shift and the arrows move it, the up and down arrows step its grade, p pins it.
 */
export function JoinHandles({ shape, document, selected, hands }: JoinHandlesProps) {
  const { drag, ...pointer } = useDrag(shape, hands);
  const moved = new Set(document.joins.filter((join) => join.by_hand).map((join) => join.id));
  const step = (join: string, n: number, by: 1 | -1) => {
    const next = shape.columns[n + by];
    hands.onMove(join, next ? { heat: next.heat.heat_no } : { after: by > 0 ? shape.columns.length : 0 });
  };
  return (
    <g>
      {drag?.far && drag.target && <TargetDrawn shape={shape} target={drag.target} />}
      {shape.columns.map((column, n) => (
        <g key={column.heat.heat_no}>
          {namedIn(column, selected).map((row, line) => (
            <Handle
              key={row.join}
              column={column}
              shape={shape}
              line={line}
              title={row.title}
              alone={column.heat.joins.length === 1}
              more={line === MOST_NAMED - 1 ? column.heat.joins.length - MOST_NAMED : 0}
              lit={selected?.kind === "join" && selected.id === row.join}
              moved={moved.has(row.join)}
              onPointerDown={(event) => pointer.begin(event, row.join, row.title)}
              onPointerMove={pointer.go}
              onPointerUp={pointer.drop}
              onPointerCancel={pointer.cancel}
              acts={{
                "ladder.earlier": () => step(row.join, n, -1),
                "ladder.later": () => step(row.join, n, 1),
                "ladder.harder": () => hands.onGrade([row.join], -1),
                "ladder.softer": () => hands.onGrade([row.join], 1),
                "ladder.own": () => hands.onMove(row.join, { after: n + 1 }),
                "ladder.pin": () => hands.onPin(row.join),
                "ladder.choose": () => hands.onSelectJoin(row.join),
              }}
            />
          ))}
          {column.heat.joins.length === 0 && (
            <text
              x={column.x + column.width / 2}
              y={shape.floor + 40}
              textAnchor="middle"
              fontSize={14}
              fill="var(--quiet)"
            >
              {clip(column.heat.parts.join(", ").replace(/-/g, " "), Math.floor(column.room / 8))}
            </text>
          )}
        </g>
      ))}
      {drag?.far && (
        <text
          x={drag.x + 10}
          y={drag.y - 8}
          fontSize={15}
          fontWeight={700}
          fill="var(--accent)"
          stroke="var(--ground)"
          strokeWidth={4}
          paintOrder="stroke"
          pointerEvents="none"
        >
          {drag.title}
        </text>
      )}
    </g>
  );
}

/** A name carried by the pointer; one that hardly moved was touched, not carried. */
function useDrag(shape: LadderShape, hands: Hands) {
  const [drag, setDrag] = useState<Drag | null>(null);
  const from = useRef({ x: 0, y: 0 });
  const spot = (event: React.PointerEvent<SVGGElement>) => {
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    return { x: event.clientX - (box?.left ?? 0), y: event.clientY - (box?.top ?? 0) };
  };
  const begin = (event: React.PointerEvent<SVGGElement>, join: string, title: string) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    from.current = spot(event);
    setDrag({ join, title, ...from.current, far: false, target: null });
  };
  const go = (event: React.PointerEvent<SVGGElement>) => {
    if (!drag) return;
    const at = spot(event);
    const far = drag.far || Math.hypot(at.x - from.current.x, at.y - from.current.y) > SLACK;
    setDrag({ ...drag, ...at, far, target: far ? targetAt(shape, at.x) : null });
  };
  const drop = () => {
    if (drag?.far && drag.target) hands.onMove(drag.join, drag.target);
    else if (drag) hands.onSelectJoin(drag.join);
    setDrag(null);
  };
  return { drag, begin, go, drop, cancel: () => setDrag(null) };
}

/** The joins named under a heat: the first few, and the chosen one whatever its place. */
function namedIn(column: Column, selected: Selection) {
  const rows = column.heat.joins;
  const first = rows.slice(0, MOST_NAMED);
  const chosen = rows.find((row) => selected?.kind === "join" && row.join === selected.id);
  return chosen && !first.includes(chosen) ? [chosen, ...first.slice(0, MOST_NAMED - 1)] : first;
}

type HandleProps = {
  column: Column;
  shape: LadderShape;
  line: number;
  title: string;
  /** The only one of its heat: a long name may take more lines. */
  alone: boolean;
  more: number;
  lit: boolean;
  moved: boolean;
  onPointerDown: (event: React.PointerEvent<SVGGElement>) => void;
  onPointerMove: (event: React.PointerEvent<SVGGElement>) => void;
  onPointerUp: () => void;
  onPointerCancel: () => void;
  acts: Handlers;
};

function Handle({ column, shape, line, title, alone, more, lit, moved, acts, ...pointer }: HandleProps) {
  const middle = column.x + column.width / 2;
  const close = shape.rounds.some((round) => column.x >= round.x1 && column.x < round.x2);
  const wide = shape.crowded || close ? column.room - 4 : Math.min(column.width + 44, column.room * 0.7);
  const y = shape.floor + 28 + LINE * line;
  const letters = Math.max(6, Math.floor((wide - (more > 0 ? 22 : 0)) / 7.4));
  const lines = alone ? wrap(title, letters).slice(0, MOST_NAMED) : [clip(title, letters)];
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`${title}, heat ${String(column.heat.heat_no)}${moved ? ", moved by hand" : ""}`}
      aria-pressed={lit}
      className="cursor-grab touch-none"
      onKeyDown={(event) => heard(event, acts)}
      {...pointer}
    >
      <rect
        x={middle - wide / 2}
        y={y}
        width={wide}
        height={LINE * lines.length}
        rx={3}
        fill={lit ? "var(--lit)" : "transparent"}
        stroke={moved ? "var(--accent)" : "none"}
      />
      <text
        y={y + 13}
        textAnchor="middle"
        fontSize={13.5}
        fontWeight={700}
        fill={lit ? "var(--on-lit)" : "var(--ink)"}
      >
        {lines.map((words, n) => (
          <tspan key={words} x={middle} dy={n === 0 ? 0 : LINE}>
            {words}
          </tspan>
        ))}
        {more > 0 && <tspan fontWeight={400}>{` +${String(more)}`}</tspan>}
        <title>{title}</title>
      </text>
    </g>
  );
}

function TargetDrawn({ shape, target }: { shape: LadderShape; target: Target }) {
  if ("heat" in target) {
    const column = shape.columns.find((one) => one.heat.heat_no === target.heat);
    return (
      column && (
        <rect
          x={column.x - 5}
          y={column.top - 5}
          width={column.width + 10}
          height={shape.floor - column.top + 10}
          fill="none"
          stroke="var(--accent)"
          strokeWidth={3}
          strokeDasharray="7 4"
          pointerEvents="none"
        />
      )
    );
  }
  const before = shape.columns[target.after - 1];
  const x = before ? before.x + before.room - 12 : (shape.columns[0]?.x ?? 60) - 10;
  return (
    <path
      d={`M${x} ${shape.y(shape.marks.at(-1)?.degrees ?? 700)}V${shape.floor + 20}`}
      stroke="var(--accent)"
      strokeWidth={4}
      strokeDasharray="7 4"
      pointerEvents="none"
    />
  );
}
