import { useLayoutEffect, useRef, useState } from "react";
import { useTables } from "../api/queries";
import type { HeatStep, PieceDocument, Plan } from "../api/types";
import type { Hands } from "../document/moves";
import type { Selection } from "../drawing/PictureView";
import { BandDrawn, CeilingDrawn, ColumnDrawn, Hatching, RoundsDrawn, Scale } from "./drawn";
import { type LadderShape, layLadder } from "./geometry";
import { JoinHandles } from "./JoinHandles";

export type LadderDrawingProps = {
  document: PieceDocument;
  plan: Plan;
  shown: HeatStep | null;
  selected: Selection;
  height: number;
  /** How wide a heat is drawn, as a share of what fits; 1 fits the window. */
  zoom: number;
  label: string;
  onChoose: (heat: HeatStep) => void;
  hands?: Hands;
};

const NARROWEST_PITCH = 66;

/** The drawn ladder: columns, lines running on, ceilings; joins can be taken by their names and put elsewhere. */
export function LadderDrawing(props: LadderDrawingProps) {
  const { document, plan, shown, selected, height, zoom, label, onChoose, hands } = props;
  const holder = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(760);
  useLayoutEffect(() => {
    const measure = new ResizeObserver(
      ([entry]) => entry && setWidth(Math.max(480, entry.contentRect.width)),
    );
    if (holder.current) measure.observe(holder.current);
    return () => measure.disconnect();
  }, []);
  const heats = plan.steps.filter((step) => step.kind === "heat").length;
  const fitting = Math.max(width, heats * NARROWEST_PITCH + 202);
  const wide = (fitting - 202) * zoom + 202;
  const frame = { width: wide, height, left: 52, right: 150, top: 44, bottom: heats > 5 ? 148 : 118 };
  const shape = layLadder(plan, frame);
  useLayoutEffect(() => {
    const column = shape.columns.find((one) => one.heat.heat_no === shown?.heat_no);
    const box = holder.current;
    if (!column || !box) return;
    if (column.x < box.scrollLeft || column.x + column.width > box.scrollLeft + box.clientWidth)
      box.scrollLeft = column.x - box.clientWidth / 2;
  }, [shown?.heat_no, shape.columns]);
  const melting = useMelting(document);
  return (
    <div ref={holder} className="min-w-0 overflow-x-auto">
      <svg width={wide} height={height} role="group" aria-label={label} className="block font-sans">
        <Hatching />
        <Scale shape={shape} left={frame.left} />
        {shape.bands.map((band) => (
          <BandDrawn
            key={band.joins[0]}
            band={band}
            shape={shape}
            lit={selected?.kind === "join" && band.joins.includes(selected.id)}
          />
        ))}
        {shape.columns.map((column, n) => (
          <ColumnDrawn
            key={column.heat.heat_no}
            column={column}
            shape={shape}
            lit={column.heat.heat_no === shown?.heat_no}
            named={!hands}
            onChoose={() => onChoose(column.heat)}
            onStep={(by) => {
              const next = shape.columns[n + by];
              if (next) onChoose(next.heat);
            }}
            onShare={(by) => {
              const next = shape.columns[n + by];
              if (next) hands?.onShare(column.heat, next.heat.heat_no);
            }}
            onGrade={(by) => {
              if (column.heat.heat_no !== shown?.heat_no) onChoose(column.heat);
              else
                hands?.onGrade(
                  column.heat.joins.map((row) => row.join),
                  by,
                );
            }}
          />
        ))}
        {shape.ceilings.map((ceiling, n) => (
          <CeilingDrawn
            key={`${ceiling.part}-${String(n)}`}
            ceiling={ceiling}
            metal={melting(ceiling.part)}
            first={n === 0}
          />
        ))}
        <RoundsDrawn shape={shape} />
        <BetweenDrawn shape={shape} />
        {hands && <JoinHandles shape={shape} document={document} selected={selected} hands={hands} />}
      </svg>
    </div>
  );
}

function BetweenDrawn({ shape }: { shape: LadderShape }) {
  return shape.between.map((gap, n) => (
    <g key={`gap-${String(n)}`} fontSize={12} fill="var(--quiet)" textAnchor="middle" aria-hidden>
      {n < shape.columns.length - 1 &&
        gap.lines.slice(0, 5).map((line, k) => (
          <text key={line} x={gap.x} y={shape.floor + (shape.crowded ? 90 : 22) + 15 * k}>
            {line}
          </text>
        ))}
    </g>
  ));
}

/** Give the name of the metal that a part, or a join's solder, is of. */
function useMelting(document: PieceDocument): (part: string) => string {
  const tables = useTables();
  const parts = new Map(document.parts.map((part) => [part.id, part]));
  const metals = new Map(
    [...(tables.data?.metals ?? []), ...document.metals].map((one) => [one.id, one.name]),
  );
  return (part) => {
    const metal = parts.get(part)?.metal ?? part;
    return (metals.get(metal) ?? metal).toLowerCase();
  };
}
