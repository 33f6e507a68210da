import { useLayoutEffect, useRef, useState } from "react";
import { useTables } from "../api/queries";
import type { HeatStep, PieceDocument, PieceView } from "../api/types";
import { Button } from "../parts/Button";
import { Key } from "../parts/Key";
import { backToBest, pinned, stepGrade } from "../piece/edit";
import type { Selection } from "../piece/PictureView";
import type { Remedy } from "../piece/remedies";
import { useKeys } from "../shell/keys";
import { ConflictText } from "./ConflictText";
import { BandDrawn, CeilingDrawn, ColumnDrawn, Hatching, Scale } from "./drawn";
import { layLadder } from "./geometry";
import { HeatDetail } from "./HeatDetail";

export type LadderProps = {
  view: PieceView;
  selected: Selection;
  onSelect: (selection: Selection) => void;
  onRemedy: (remedy: Remedy) => void;
  onChange: (what: string, change: (document: PieceDocument) => PieceDocument) => void;
};

/** The heat ladder: each heat a column up to its working temperature, each join's line running on to the right. */
export function Ladder({ view, selected, onSelect, onRemedy, onChange }: LadderProps) {
  const { plan } = view;
  const [chosen, setChosen] = useState(1);
  const heats = plan.steps.filter((step) => step.kind === "heat");
  if (plan.conflict) {
    return <ConflictText conflict={plan.conflict} document={view.document} onRemedy={onRemedy} />;
  }
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
  const joins = shown?.joins.map((row) => row.join) ?? [];
  const grade = shown?.joins[0]?.grade ?? null;
  const stepTo = (by: 1 | -1) => (grade ? stepGrade(view.document, joins, grade, by) : null);
  const step = (by: 1 | -1) => {
    if (grade && stepTo(by))
      onChange(
        by > 0 ? "a softer grade by hand" : "a harder grade by hand",
        (now) => stepGrade(now, joins, grade, by) ?? now,
      );
  };
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_300px] gap-8">
      <div className="min-w-0">
        <Drawing view={view} shown={shown ?? null} selected={selected} onChoose={choose} onGrade={step} />
        <GradeByHand
          canHarder={stepTo(-1) !== null}
          canSofter={stepTo(1) !== null}
          byHand={pinned(view.document).length}
          onStep={step}
          onBest={() => onChange("back to the best grades", backToBest)}
        />
      </div>
      {shown && <HeatDetail view={view} heat={shown} />}
    </div>
  );
}

type GradeByHandProps = {
  canHarder: boolean;
  canSofter: boolean;
  byHand: number;
  onStep: (by: 1 | -1) => void;
  onBest: () => void;
};

/** Step the chosen heat's grade by hand; the plan follows, and one key leads back to the best. */
function GradeByHand({ canHarder, canSofter, byHand, onStep, onBest }: GradeByHandProps) {
  useKeys({ b: byHand > 0 ? onBest : undefined });
  return (
    <div className="mt-2 flex items-center gap-2">
      <span className="mr-1 text-[15px] text-quiet">The chosen heat by hand</span>
      <Button className="!px-3" disabled={!canHarder} onClick={() => onStep(-1)}>
        Harder <Key>↑</Key>
      </Button>
      <Button className="!px-3" disabled={!canSofter} onClick={() => onStep(1)}>
        Softer <Key>↓</Key>
      </Button>
      {byHand > 0 && (
        <Button className="!px-3" onClick={onBest}>
          Back to best <Key>b</Key>
        </Button>
      )}
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
  onGrade: (by: 1 | -1) => void;
};

const HEIGHT = 560;

function Drawing({ view, shown, selected, onChoose, onGrade }: DrawingProps) {
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
            onGrade={(by) => {
              if (column.heat === shown) onGrade(by);
              else onChoose(column.heat);
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
