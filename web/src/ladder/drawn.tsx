/** What the ladder is drawn of: columns, lines, ceilings, the scale. */
import type { HeatStep } from "../api/types";
import { bareDegrees, sayDegrees } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import { gradeWords, saySeconds, shortSolder } from "../parts/words";
import { type Handlers, heard } from "../shell/keys";
import { type BandLine, type Ceiling, type Column, type LadderShape, rungsOf } from "./geometry";
import { clip, wrap } from "./wrap";

export function CeilingDrawn({ ceiling, metal, first }: { ceiling: Ceiling; metal: string; first: boolean }) {
  const units = useUnits();
  const wide = ceiling.x2 - ceiling.x1 > 190;
  const words = `${String(Math.round(ceiling.degrees))} ${wide ? `${metal} begins to melt` : metal}`;
  return (
    <g aria-hidden>
      {!ceiling.beyond && (
        <>
          <rect
            x={ceiling.x1}
            y={10}
            width={ceiling.x2 - ceiling.x1}
            height={ceiling.y - 10}
            fill="url(#melt)"
          />
          <path d={`M${ceiling.x1} ${ceiling.y}H${ceiling.x2}`} stroke="var(--alarm)" strokeWidth={1.6} />
        </>
      )}
      <text
        x={first ? ceiling.x1 + 4 : ceiling.x2 - 4}
        y={ceiling.y - 7}
        textAnchor={first ? "start" : "end"}
        fontSize={13}
        fill="var(--alarm)"
        stroke="var(--ground)"
        strokeWidth={4}
        paintOrder="stroke"
      >
        {words}
        {ceiling.beyond ? " ↑" : ""}
        <title>{`${metal} begins to melt at ${sayDegrees(ceiling.degrees, units)}`}</title>
      </text>
    </g>
  );
}

export function Hatching() {
  return (
    <defs>
      <pattern id="melt" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d="M0 0V7" stroke="var(--alarm)" strokeWidth="1.1" opacity="0.3" />
      </pattern>
      <pattern id="soft" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d="M0 0V7" stroke="var(--warn-line)" strokeWidth="2.6" />
      </pattern>
      <pattern id="flows" width="6" height="6" patternUnits="userSpaceOnUse">
        <path d="M0 0L6 6M6 0L0 6" stroke="var(--warn-line)" strokeWidth="1.6" />
      </pattern>
    </defs>
  );
}

/** The common foot of the heats of a round. */
export function RoundsDrawn({ shape }: { shape: LadderShape }) {
  return shape.rounds.map((round) => (
    <path
      key={round.x1}
      d={`M${round.x1} ${shape.floor + 3}H${round.x2}`}
      stroke="var(--ink)"
      strokeWidth={6}
      aria-hidden
    >
      <title>{`Round ${String(round.no)}: one cooling, one pot`}</title>
    </path>
  ));
}

export function Scale({ shape, left }: { shape: LadderShape; left: number }) {
  const units = useUnits();
  return (
    <g aria-hidden>
      {shape.marks.map((mark) => (
        <g key={mark.degrees}>
          <path d={`M${left} ${mark.y}H${shape.right}`} stroke="var(--hair)" />
          <text
            x={left - 8}
            y={mark.y + 4}
            textAnchor="end"
            fontSize={13}
            fill="var(--quiet)"
            className="figures"
          >
            {bareDegrees(mark.degrees, units)}
          </text>
        </g>
      ))}
      <path d={`M${left} ${shape.floor}H${shape.right}`} stroke="var(--quiet)" strokeWidth={1.2} />
    </g>
  );
}

export function BandDrawn({ band, shape, lit }: { band: BandLine; shape: LadderShape; lit: boolean }) {
  const units = useUnits();
  const top = shape.y(band.reflow);
  const soft = shape.y(band.solidus);
  const there = band.runs.filter((run) => run.present);
  const last = there.at(-1);
  return (
    <g aria-hidden>
      {there.map((run) => (
        <g key={run.x1}>
          <rect
            x={run.x1}
            y={top}
            width={run.x2 - run.x1}
            height={soft - top}
            fill="var(--accent)"
            opacity={lit ? 0.2 : 0.08}
          />
          <rect
            x={run.x1}
            y={soft}
            width={run.x2 - run.x1}
            height={shape.floor - soft}
            fill="var(--accent)"
            opacity={lit ? 0.08 : 0.025}
          />
          <path d={`M${run.x1} ${top}H${run.x2}`} stroke="var(--accent)" strokeWidth={lit ? 3 : 2} />
          <path
            d={`M${run.x1} ${soft}H${run.x2}`}
            stroke="var(--accent)"
            strokeDasharray="2 4"
            strokeWidth={1.2}
          />
        </g>
      ))}
      {last && last.x2 < shape.right - 1 && last.x2 - last.x1 > 90 && (
        <text
          x={last.x1 + 7}
          y={top + 16}
          fontSize={12.5}
          stroke="var(--ground)"
          strokeWidth={3}
          paintOrder="stroke"
          fill="var(--accent)"
          fontWeight={lit ? 700 : 400}
        >
          {clip(band.title, Math.floor((last.x2 - last.x1) / 8))}{" "}
          <tspan className="figures">{bareDegrees(band.reflow, units)}</tspan>
        </text>
      )}
      {last && last.x2 >= shape.right - 1 && (
        <>
          {Math.abs(band.labelY - top) > 1 && (
            <path d={`M${shape.right} ${top}L${shape.right + 6} ${band.labelY}`} stroke="var(--hair)" />
          )}
          <text
            x={shape.right + 8}
            y={band.labelY + 4}
            fontSize={12.5}
            fill="var(--accent)"
            fontWeight={lit ? 700 : 400}
          >
            {clip(band.title, 16)} <tspan className="figures">{bareDegrees(band.reflow, units)}</tspan>
            <title>{`${band.title}: soft from ${sayDegrees(band.solidus, units)}, runs again at ${sayDegrees(band.reflow, units)}`}</title>
          </text>
        </>
      )}
    </g>
  );
}

export type ColumnDrawnProps = {
  column: Column;
  shape: LadderShape;
  lit: boolean;
  /** Whether the joins' names are written under it. */
  named: boolean;
  onChoose: () => void;
  onStep: (by: 1 | -1) => void;
  onShare: (by: 1 | -1) => void;
  onGrade: (by: 1 | -1) => void;
};

type ColumnPart = { column: Column; floor: number; lit: boolean };

export function ColumnDrawn(props: ColumnDrawnProps) {
  const { column, shape, lit, named, onChoose, onStep, onShare, onGrade } = props;
  const units = useUnits();
  const { heat } = column;
  const grade = heat.joins[0]?.grade ?? null;
  const acts: Handlers = {
    "ladder.choose": onChoose,
    "ladder.earlier": () => onShare(-1),
    "ladder.later": () => onShare(1),
    "ladder.before": () => onStep(-1),
    "ladder.after": () => onStep(1),
    "ladder.harder": () => onGrade(-1),
    "ladder.softer": () => onGrade(1),
  };
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={lit}
      aria-label={`Heat ${String(heat.heat_no)}: ${namesOf(heat)}, ${sayDegrees(heat.working_c, units)} ${gradeWords(grade)}`}
      className="cursor-pointer"
      onClick={onChoose}
      onKeyDown={(event) => heard(event, acts)}
    >
      <ColumnBox column={column} floor={shape.floor} lit={lit} />
      <ColumnWords column={column} floor={shape.floor} lit={lit} />
      {named && <ColumnNames column={column} shape={shape} />}
    </g>
  );
}

/** The column itself, hatched where the solder of earlier joins is soft or runs. */
function ColumnBox({ column, floor, lit }: ColumnPart) {
  const { x, width, top } = column;
  const plate = Math.min(62, width - 6);
  return (
    <>
      <rect
        x={x}
        y={top}
        width={width}
        height={floor - top}
        fill={lit ? "var(--lit)" : "var(--raised)"}
        stroke="var(--ink)"
        strokeWidth={1.6}
      />
      {column.softness.map((soft) => (
        <rect
          key={soft.state}
          x={x + 1}
          y={soft.to + 1}
          width={width - 2}
          height={Math.max(soft.from - soft.to - 2, 0)}
          fill={`url(#${soft.state})`}
        />
      ))}
      <rect
        x={x + (width - plate) / 2}
        y={top + 7}
        width={plate}
        height={23}
        rx={3}
        fill={lit ? "var(--lit)" : "var(--raised)"}
      />
    </>
  );
}

/** What is written on a column and right under it: its temperature, its grade with rungs, its number and time. */
function ColumnWords({ column, floor, lit }: ColumnPart) {
  const units = useUnits();
  const { heat, x, width, top } = column;
  const grade = heat.joins[0]?.grade ?? null;
  const middle = x + width / 2;
  const ink = lit ? "var(--on-lit)" : "var(--ink)";
  return (
    <>
      <text
        x={middle}
        y={top + 25}
        textAnchor="middle"
        fontSize={width < 64 ? 16 : 19}
        fontWeight={700}
        fill={ink}
        className="figures"
      >
        {bareDegrees(heat.working_c, units)}°
      </text>
      <Rungs count={rungsOf(grade)} x={middle} y={floor - 28} ink={ink} />
      <text x={middle} y={floor - 9} textAnchor="middle" fontSize={width < 64 ? 11.5 : 13.5} fill={ink}>
        {grade ? shortSolder(heat.joins[0]) : heat.purpose}
      </text>
      <text x={middle} y={floor + 22} textAnchor="middle" fontSize={13} fill="var(--quiet)">
        heat {heat.heat_no}
        {heat.rehearsed?.likely_s ? ` · ${saySeconds(heat.rehearsed.likely_s)}` : ""}
      </text>
    </>
  );
}

/** The joins' names under their column. */
function ColumnNames({ column, shape }: { column: Column; shape: LadderShape }) {
  const wide = shape.crowded ? column.room - 8 : column.width + 6;
  return wrap(namesOf(column.heat), Math.max(9, Math.floor(wide / 7.4))).map((line, n) => (
    <text
      key={line}
      x={column.x + column.width / 2}
      y={shape.floor + 40 + 16 * n}
      textAnchor="middle"
      fontSize={14}
      fontWeight={700}
      fill="var(--ink)"
    >
      {line}
    </text>
  ));
}

function Rungs({ count, x, y, ink }: { count: number; x: number; y: number; ink: string }) {
  return (
    <g stroke={ink} strokeWidth={2.6}>
      {Array.from({ length: count }, (_, n) => (
        <path key={`rung-${String(n)}`} d={`M${x - 16} ${y - 8 * n}H${x + 16}`} />
      ))}
    </g>
  );
}

const namesOf = (heat: HeatStep): string =>
  heat.joins.map((row) => row.title).join(", ") ||
  (heat.parts.length > 0 ? heat.parts.join(", ").replace(/-/g, " ") : heat.purpose);
