import type { Rehearsal, RehearsalLine } from "../api/types";
import { bareDegrees, sayDegrees } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import { mainLines, spreadLabels, topOf, valueAt } from "./moments";

/** Seconds and degrees as pixels of the drawing. */
type Axes = { x: (time: number) => number; y: (celsius: number) => number; width: number; height: number };

export type CurvesProps = {
  rehearsal: Rehearsal;
  seconds: number;
  width: number;
  height: number;
  onSeconds: (seconds: number) => void;
};

const LEFT = 52;
const RIGHT = 196;
const TOP = 14;
const LOW = 34;
const BOILS_C = 100;

/** Temperatures over time: the joins of the heat, what is spared, flow lines and ceilings, and the moment shown. */
export function Curves({ rehearsal, seconds, width, height, onSeconds }: CurvesProps) {
  const { series } = rehearsal;
  const lines = [...series.joins, ...series.parts];
  const end = Math.max(series.time_s[series.time_s.length - 1] ?? 1, 1);
  const top = topOf(lines);
  const x = (time: number) => LEFT + (time / end) * (width - LEFT - RIGHT);
  const y = (celsius: number) => height - LOW - (celsius / top) * (height - TOP - LOW);
  const axes = { x, y, width, height };
  const main = mainLines(rehearsal);
  const press = (event: { clientX: number; currentTarget: SVGSVGElement }) => {
    const box = event.currentTarget.getBoundingClientRect();
    const at = ((event.clientX - box.left) * width) / box.width;
    onSeconds(Math.min(end, Math.max(0, ((at - LEFT) / (width - LEFT - RIGHT)) * end)));
  };
  return (
    <svg
      viewBox={`0 0 ${String(width)} ${String(height)}`}
      className="w-full cursor-crosshair"
      role="img"
      aria-label="Temperatures over time"
      onPointerDown={press}
    >
      <TimeAndHeat axes={axes} top={top} end={end} />
      <FlowBand band={rehearsal.seconds_to_flow} axes={axes} end={end} />
      <Levels lines={lines} rehearsal={rehearsal} y={y} width={width} />
      <Bands lines={lines.filter((line) => main.has(line.id))} rehearsal={rehearsal} axes={axes} />
      {lines.map((line) => {
        const strong = main.has(line.id);
        const ours = rehearsal.joins.includes(line.id);
        return (
          <path
            key={line.id}
            d={pathOf(series.time_s, shown(line, rehearsal), x, y)}
            fill="none"
            stroke={ours ? "var(--accent)" : strong ? "var(--ink)" : "var(--metal)"}
            strokeWidth={ours ? 3 : strong ? 2 : 1}
            strokeDasharray={strong && !ours ? "7 4" : undefined}
            opacity={strong ? 1 : 0.55}
          >
            <title>{line.title}</title>
          </path>
        );
      })}
      <Labels
        lines={lines.filter((line) => main.has(line.id))}
        rehearsal={rehearsal}
        seconds={seconds}
        axes={axes}
      />
      <FailedHands rehearsal={rehearsal} axes={axes} end={end} />
      <path d={`M${x(seconds)} ${TOP}V${height - LOW}`} stroke="var(--ink)" strokeWidth={1.2} />
      <path d={`M${x(seconds) - 6} ${TOP - 8}h12l-6 9z`} fill="var(--ink)" />
    </svg>
  );
}

type BandsProps = { lines: readonly RehearsalLine[]; rehearsal: Rehearsal; axes: Axes };

/** What the hands between one and nine tenths see, round each main line. */
function Bands({ lines, rehearsal, axes }: BandsProps) {
  const times = rehearsal.series.time_s;
  return lines.flatMap((line) => {
    if (!line.band) return [];
    const there = pathOf(times, line.band.high, axes.x, axes.y);
    const back = pathOf([...times].reverse(), [...line.band.low].reverse(), axes.x, axes.y).replace("M", "L");
    const ours = rehearsal.joins.includes(line.id);
    return [
      <path
        key={line.id}
        d={`${there}${back}Z`}
        fill={ours ? "var(--accent)" : "var(--metal)"}
        opacity={ours ? 0.2 : 0.14}
      />,
    ];
  });
}

type Failed = Rehearsal["hands"]["marks"][number];

const FAILS: Record<Failed["kind"], string> = {
  slumps: "slumps",
  "runs-again": "runs again",
  boils: "flux boils",
  drops: "lets go",
  leans: "leans over",
  spent: "flux spent",
  "too-cool": "too cool",
};

/** At which temperature a hand failed: where the part slumps, the join runs again, the flux boils, or short of the flow point. */
function failedAt(mark: Failed, rehearsal: Rehearsal): number {
  const lines = [...rehearsal.series.parts, ...rehearsal.series.joins];
  const line = lines.find((one) => one.id === mark.about);
  if (mark.kind === "boils") return BOILS_C;
  if (mark.kind === "slumps" || mark.kind === "runs-again")
    return line?.limit_c ?? rehearsal.tightest?.limit_c ?? 0;
  return lines.map((one) => one.flow_c).find((flow) => flow !== null) ?? 0;
}

/** The hands that did not bring it off, as small marks at when and where. */
function FailedHands({ rehearsal, axes, end }: { rehearsal: Rehearsal; axes: Axes; end: number }) {
  return (
    <g stroke="var(--alarm)" strokeWidth={1.5} fill="none">
      {rehearsal.hands.marks.map((mark, n) => {
        const x = axes.x(Math.min(mark.seconds, end));
        const y = axes.y(failedAt(mark, rehearsal));
        return (
          <path key={`${mark.kind}-${String(n)}`} d={`M${x - 3} ${y - 3}l6 6m0 -6l-6 6`}>
            <title>
              {FAILS[mark.kind]} at {mark.seconds.toFixed(0)} s
            </title>
          </path>
        );
      })}
    </g>
  );
}

/** The two scales: degrees at the left with their hairlines, seconds underneath. */
function TimeAndHeat({ axes, top, end }: { axes: Axes; top: number; end: number }) {
  const units = useUnits();
  const { x, y, width, height } = axes;
  return (
    <g>
      {ticks(top, 200).map((at) => (
        <g key={at}>
          <path d={`M${LEFT} ${y(at)}H${width - RIGHT}`} stroke="var(--hair)" strokeWidth={1} />
          <text
            x={LEFT - 8}
            y={y(at) + 4.5}
            textAnchor="end"
            fontSize={13}
            fill="var(--quiet)"
            className="figures"
          >
            {bareDegrees(at, units)}
          </text>
        </g>
      ))}
      {ticks(end, niceStep(end)).map((at) => (
        <text
          key={at}
          x={x(at)}
          y={height - 12}
          textAnchor="middle"
          fontSize={13}
          fill="var(--quiet)"
          className="figures"
        >
          {at === 0 ? "0 s" : at}
        </text>
      ))}
    </g>
  );
}

/** When the solder flows: the band of what is likely under the scale of seconds, its likeliest moment a stroke. */
function FlowBand({ band, axes, end }: { band: Rehearsal["seconds_to_flow"]; axes: Axes; end: number }) {
  const { x, height } = axes;
  if (!band || band.low === null) return null;
  return (
    <g>
      <rect
        x={x(band.low)}
        y={height - LOW}
        width={Math.max(2, x(Math.min(end, band.high ?? end)) - x(band.low))}
        height={6}
        fill="var(--accent)"
        opacity={0.35}
      />
      <rect
        x={x(Math.min(end, band.likely)) - 1}
        y={height - LOW}
        width={2}
        height={6}
        fill="var(--accent)"
      />
    </g>
  );
}

type LabelsProps = { lines: readonly RehearsalLine[]; rehearsal: Rehearsal; seconds: number; axes: Axes };

/** The main lines named at their ends, each with its temperature at the moment shown. */
function Labels({ lines, rehearsal, seconds, axes }: LabelsProps) {
  const units = useUnits();
  const { series } = rehearsal;
  const { y, width, height } = axes;
  const heights = spreadLabels(
    lines.map((line) => y(last(shown(line, rehearsal)))),
    17,
    TOP + 8,
    height - LOW,
  );
  return lines.map((line, n) => (
    <text
      key={line.id}
      x={width - RIGHT + 8}
      y={(heights[n] ?? 0) + 5}
      fontSize={15}
      fontWeight={rehearsal.joins.includes(line.id) ? 700 : 500}
      fill={rehearsal.joins.includes(line.id) ? "var(--accent)" : "var(--ink)"}
    >
      {short(line.title)}
      {series.parts.includes(line) ? ", metal" : ""}{" "}
      {sayDegrees(valueAt(series.time_s, shown(line, rehearsal), seconds), units)}
    </text>
  ));
}

/** A join that is to flow is told by its coolest place; what is to be spared by its hottest. */
const shown = (line: RehearsalLine, rehearsal: Rehearsal) =>
  rehearsal.joins.includes(line.id) ? line.c : line.hottest_c;

const last = (values: readonly number[]) => values[values.length - 1] ?? 0;
const short = (title: string) => (title.length > 14 ? `${title.slice(0, 13)}…` : title);

function pathOf(
  times: readonly number[],
  values: readonly number[],
  x: (time: number) => number,
  y: (celsius: number) => number,
): string {
  return `M${times.map((time, n) => `${x(time).toFixed(1)} ${y(values[n] ?? 0).toFixed(1)}`).join("L")}`;
}

type LevelsProps = {
  lines: readonly RehearsalLine[];
  rehearsal: Rehearsal;
  y: (celsius: number) => number;
  width: number;
};

/** What a heat comes to, by what it is for. */
const REACHED: Record<Rehearsal["purpose"], string> = {
  solder: "runs at",
  fuse: "fuses at",
  anneal: "range from",
  ball: "melts at",
  melt: "melted at",
};

/** Where the solder runs, and the lowest ceiling. */
function Levels({ lines, rehearsal, y, width }: LevelsProps) {
  const units = useUnits();
  const flows = [...new Set(lines.flatMap((line) => (line.flow_c === null ? [] : [line.flow_c])))];
  const tightest = rehearsal.tightest;
  const gives = tightest?.kind === "part" ? "slumps" : "runs again";
  return (
    <g>
      {flows.map((flow) => (
        <g key={flow}>
          <path d={`M${LEFT} ${y(flow)}H${width - RIGHT}`} stroke="var(--accent)" strokeWidth={1.5} />
          <text x={LEFT + 6} y={y(flow) + 16} fontSize={13} fill="var(--accent)">
            {REACHED[rehearsal.purpose]} {sayDegrees(flow, units)}
          </text>
        </g>
      ))}
      {tightest && (
        <g>
          <path
            d={`M${LEFT} ${y(tightest.limit_c)}H${width - RIGHT}`}
            stroke="var(--alarm)"
            strokeWidth={1.5}
            strokeDasharray="2 3"
          />
          <text x={LEFT + 6} y={y(tightest.limit_c) - 6} fontSize={13} fill="var(--alarm)">
            {gives} at {sayDegrees(tightest.limit_c, units)}
          </text>
        </g>
      )}
    </g>
  );
}

function niceStep(end: number): number {
  return [1, 2, 5, 10, 20, 50, 100, 200].find((step) => end / step <= 9) ?? 500;
}

function ticks(end: number, step: number): number[] {
  return Array.from({ length: Math.floor(end / step + 1e-9) + 1 }, (_, n) => n * step);
}
