import { useLayoutEffect, useRef, useState } from "react";
import { useTables } from "../api/queries";
import type { HeatStep, PieceView } from "../api/types";
import type { Selection } from "../piece/PictureView";
import { ConflictText } from "./ConflictText";
import { BandDrawn, CeilingDrawn, ColumnDrawn, Hatching, Scale } from "./drawn";
import { layLadder } from "./geometry";
import { HeatDetail } from "./HeatDetail";

export type LadderProps = { view: PieceView; selected: Selection; onSelect: (selection: Selection) => void };

/** The heat ladder: each heat a column up to its working temperature, each join's line running on to the right. */
export function Ladder({ view, selected, onSelect }: LadderProps) {
  const { plan } = view;
  const [chosen, setChosen] = useState(1);
  const heats = plan.steps.filter((step) => step.kind === "heat");
  if (plan.conflict) return <ConflictText conflict={plan.conflict} />;
  if (heats.length === 0) return <NoHeats hasParts={view.document.parts.length > 0} />;
  const fromJoin =
    selected?.kind === "join"
      ? heats.find((heat) => heat.joins.some((row) => row.join === selected.id))
      : undefined;
  const shown = fromJoin ?? heats.find((heat) => heat.heat_no === chosen) ?? heats[0];
  const choose = (heat: HeatStep) => {
    setChosen(heat.heat_no);
    const join = heat.joins[0];
    onSelect(join ? { kind: "join", id: join.join } : null);
  };
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_300px] gap-8">
      <Drawing view={view} shown={shown ?? null} selected={selected} onChoose={choose} />
      {shown && <HeatDetail view={view} heat={shown} />}
    </div>
  );
}

function NoHeats({ hasParts }: { hasParts: boolean }) {
  return (
    <div className="py-16">
      <p className="text-[28px] font-semibold">No heat yet.</p>
      <p className="mt-2 max-w-md text-[17px] text-quiet">
        {hasParts
          ? "Add a join above: the ladder shows at once which solder it takes, in which heat, and why."
          : "Add parts above, then what joins them."}
      </p>
    </div>
  );
}

type DrawingProps = {
  view: PieceView;
  shown: HeatStep | null;
  selected: Selection;
  onChoose: (heat: HeatStep) => void;
};

const HEIGHT = 560;

function Drawing({ view, shown, selected, onChoose }: DrawingProps) {
  const holder = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(760);
  useLayoutEffect(() => {
    const measure = new ResizeObserver(
      ([entry]) => entry && setWidth(Math.max(480, entry.contentRect.width)),
    );
    if (holder.current) measure.observe(holder.current);
    return () => measure.disconnect();
  }, []);
  const heats = view.plan.steps.filter((step) => step.kind === "heat").length;
  const wide = Math.max(width, heats * 72 + 202);
  const frame = { width: wide, height: HEIGHT, left: 52, right: 150, top: 44, bottom: heats > 5 ? 148 : 104 };
  const shape = layLadder(view.plan, frame);
  const tables = useTables();
  const parts = new Map(view.document.parts.map((part) => [part.id, part]));
  const metals = new Map(
    [...(tables.data?.metals ?? []), ...view.document.metals].map((one) => [one.id, one.name]),
  );
  const melting = (part: string) => {
    const metal = parts.get(part)?.metal ?? part;
    return (metals.get(metal) ?? metal).toLowerCase();
  };
  return (
    <div ref={holder} className="min-w-0 overflow-x-auto">
      <svg width={wide} height={HEIGHT} role="group" aria-label="Heat ladder" className="block font-sans">
        <Hatching />
        <Scale shape={shape} left={frame.left} />
        {shape.bands.map((band) => (
          <BandDrawn
            key={band.heat}
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
            lit={column.heat === shown}
            onChoose={() => onChoose(column.heat)}
            onStep={(by) => {
              const next = shape.columns[n + by];
              if (next) onChoose(next.heat);
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
        {shape.between.map((gap, n) => (
          <g key={`gap-${String(n)}`} fontSize={12} fill="var(--quiet)" textAnchor="middle" aria-hidden>
            {n < shape.columns.length - 1 &&
              gap.lines.slice(0, 5).map((line, k) => (
                <text key={line} x={gap.x} y={shape.floor + (shape.crowded ? 90 : 22) + 15 * k}>
                  {line}
                </text>
              ))}
          </g>
        ))}
      </svg>
    </div>
  );
}
