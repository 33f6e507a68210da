/** The log as pictures: how often joins came out sound, what was foretold and what it took, the torch over months, minutes, solder. */
import type { LogSums } from "../api/types";
import { most } from "../parts/extent";
import { gradeWords, sayMinutes } from "../parts/words";
import { useNames } from "./asking";
import { sayMonth } from "./words";

const WIDE = 340;
const HIGH = 168;
const MOST_KINDS = 6;
const MOST_STEPS = 7;
const MOST_MONTHS = 36;

/** All plots of what is asked; one without anything to show is not there. */
export function Plots({ sums }: { sums: LogSums }) {
  return (
    <div className="mt-4 grid grid-cols-1 gap-x-8 gap-y-6 md:grid-cols-2 xl:grid-cols-3">
      <ByJoin sums={sums} />
      <ByMonth sums={sums} />
      <ToldAndTook sums={sums} />
      <TorchOverMonths sums={sums} />
      <Minutes sums={sums} />
      <Solder sums={sums} />
    </div>
  );
}

type PlotProps = { title: string; told?: string; children: React.ReactNode };

function Plot({ title, told, children }: PlotProps) {
  return (
    <section aria-label={title}>
      <h2 className="text-[16px] font-semibold">
        {title}
        {told && <span className="ml-2 font-normal text-quiet">{told}</span>}
      </h2>
      <div className="mt-1">{children}</div>
    </section>
  );
}

const percent = (sound: number, times: number) => Math.round((100 * sound) / times);
const GRADES = ["extra-hard", "hard", "medium", "easy", "extra-easy", ""];
const orderOf = (grade: string) => (GRADES.indexOf(grade) + GRADES.length) % GRADES.length;

/** How often joins of each kind came out sound with each grade: the bar is as long as the share, the number under it how many there were. */
function ByJoin({ sums }: { sums: LogSums }) {
  const names = useNames();
  const grades = [...new Set(sums.joins.map(({ grade }) => grade))].sort((a, b) => orderOf(a) - orderOf(b));
  const kinds = [...new Set(sums.joins.map(({ kind }) => kind))].slice(0, MOST_KINDS);
  return (
    <Plot title="Sound, by join and solder">
      <table className="w-full border-collapse text-[14px]">
        <thead>
          <tr>
            <td />
            {grades.map((grade) => (
              <th key={grade} scope="col" className="pb-0.5 pl-2 text-left font-normal text-quiet">
                {gradeWords((grade || null) as never)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {kinds.map((kind) => (
            <tr key={kind} className="border-t border-hair">
              <th scope="row" className="py-1 pr-1 text-left font-normal">
                {names("kind", kind) || "other"}
              </th>
              {grades.map((grade) => {
                const cell = sums.joins.find((one) => one.kind === kind && one.grade === grade);
                return (
                  <td key={grade} className="py-1 pl-2 align-top">
                    {cell && <Share sound={cell.sound} times={cell.times} />}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </Plot>
  );
}

function Share({ sound, times }: { sound: number; times: number }) {
  return (
    <span className="figures block leading-tight">
      {percent(sound, times)} %<span className="ml-1 text-[12px] text-quiet">{times}</span>
      <span className="mt-0.5 block h-1.5 bg-warn-line">
        <span className="block h-full bg-accent" style={{ width: `${String(percent(sound, times))}%` }} />
      </span>
    </span>
  );
}

/** How many joins came out sound in each month, upwards, and how many did not, downwards. */
function ByMonth({ sums }: { sums: LogSums }) {
  const months = sums.months.slice(-MOST_MONTHS);
  const up = Math.max(1, ...months.map(({ sound }) => sound));
  const down = most([0, ...months.map(({ unsound }) => unsound)]);
  const scale = (HIGH - 58) / (up + down);
  const base = 18 + up * scale;
  const pitch = Math.min(46, WIDE / Math.max(1, months.length));
  const worst = months.find(({ unsound }) => unsound === down);
  return (
    <Plot title="Month by month" told="what failed below">
      <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="w-full" role="img" aria-label="Joins by month">
        {months.map(({ month, sound, unsound }, n) => (
          <g key={month} transform={`translate(${n * pitch} 0)`}>
            <rect
              x={1}
              width={pitch - 2}
              y={base - sound * scale}
              height={sound * scale}
              fill="var(--accent)"
            />
            <rect x={1} width={pitch - 2} y={base + 1} height={unsound * scale} fill="var(--warn-line)" />
            {(sound === up || (months.length <= 8 && sound > 0)) && (
              <Label x={pitch / 2} y={base - sound * scale - 4} middle={months.length <= 8}>
                {sound}
              </Label>
            )}
            {down > 0 && month === worst?.month && (
              <Label x={pitch / 2} y={base + unsound * scale + 13} middle={months.length <= 8}>
                {unsound}
              </Label>
            )}
          </g>
        ))}
        <path d={`M0 ${base}H${WIDE}`} stroke="var(--quiet)" />
        <MonthNames months={months.map(({ month }) => month)} pitch={pitch} />
      </svg>
    </Plot>
  );
}

function MonthNames({ months, pitch }: { months: string[]; pitch: number }) {
  const every = Math.ceil(34 / pitch);
  return (
    <>
      {months.map((month, n) =>
        n % every === 0 ? (
          <Label key={month} x={n * pitch + 1} y={HIGH - 3}>
            {sayMonth(month)}
          </Label>
        ) : null,
      )}
    </>
  );
}

type LabelProps = { x: number; y: number; middle?: boolean; end?: boolean; children: React.ReactNode };

function Label({ x, y, middle, end, children }: LabelProps) {
  return (
    <text
      x={x}
      y={y}
      fontSize={12.5}
      fill="var(--quiet)"
      className="figures"
      textAnchor={middle ? "middle" : end ? "end" : "start"}
    >
      {children}
    </text>
  );
}

const LONGEST_S = 600;
const SHORTEST_S = 4;

/** Each heat as a dot: how long it was foretold to take, to the right, and how long it took, upwards; on the line both are the same. */
function ToldAndTook({ sums }: { sums: LogSums }) {
  if (sums.heats.length === 0) return null;
  const place = (seconds: number, length: number) => {
    const known = Math.min(LONGEST_S, Math.max(SHORTEST_S, seconds));
    return (Math.log(known / SHORTEST_S) / Math.log(LONGEST_S / SHORTEST_S)) * length;
  };
  const x = (seconds: number) => 56 + place(seconds, WIDE - 66);
  const y = (seconds: number) => HIGH - 22 - place(seconds, HIGH - 30);
  const ends = { x1: x(SHORTEST_S), x2: x(LONGEST_S) };
  return (
    <Plot title="Foretold and taken" told={`the newest ${String(sums.heats.length)} heats`}>
      <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="w-full" role="img" aria-label="Foretold and taken">
        {[5, 20, 60, 300].map((seconds) => (
          <g key={seconds}>
            <path d={`M56 ${y(seconds)}H${WIDE - 10}M${x(seconds)} 8V${HIGH - 22}`} stroke="var(--hair)" />
            <Label x={50} y={y(seconds) + 4} end>
              {seconds < 60 ? `${seconds} s` : `${seconds / 60} min`}
            </Label>
            <Label x={x(seconds)} y={HIGH - 7} middle>
              {seconds < 60 ? `${seconds} s` : `${seconds / 60} min`}
            </Label>
          </g>
        ))}
        <line {...ends} y1={y(SHORTEST_S)} y2={y(LONGEST_S)} stroke="var(--quiet)" />
        {sums.heats.map((heat) => (
          <circle
            key={`${String(heat.run)} ${heat.at}`}
            cx={x(heat.told_s)}
            cy={y(heat.took_s)}
            r={heat.sound ? 3 : 4}
            fill={heat.sound ? "var(--accent)" : "none"}
            fillOpacity={0.6}
            stroke={heat.sound ? "none" : "var(--warn)"}
            strokeWidth={2}
          >
            <title>{`${String(Math.round(heat.told_s))} s foretold, ${String(Math.round(heat.took_s))} s taken`}</title>
          </circle>
        ))}
      </svg>
    </Plot>
  );
}

const STROKES = ["", "7 4", "2 3"];

/** How strong each torch was in each month, by how long its heats took: above the line it was stronger than foretold. */
function TorchOverMonths({ sums }: { sums: LogSums }) {
  const names = useNames();
  const months = sums.months.slice(-MOST_MONTHS).map(({ month }) => month);
  const torches = [...new Set(sums.torches.map(({ torch }) => torch))].slice(0, STROKES.length);
  if (torches.length === 0) return null;
  const pitch = Math.min(46, (WIDE - 66) / Math.max(1, months.length));
  const x = (month: string) => 66 + (months.indexOf(month) + 0.5) * pitch;
  const y = (ratio: number) => 80 + Math.max(-1, Math.min(1, Math.log2(ratio))) * 62;
  return (
    <Plot title="The torch over the months">
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        className="w-full"
        role="img"
        aria-label="The torch over the months"
      >
        {(
          [
            [0.5, "strong"],
            [1, "as told"],
            [2, "weak"],
          ] as const
        ).map(([ratio, words]) => (
          <g key={words}>
            <path d={`M66 ${y(ratio)}H${WIDE}`} stroke="var(--hair)" />
            <Label x={0} y={y(ratio) + 4}>
              {words}
            </Label>
          </g>
        ))}
        {torches.map((torch, n) => {
          const mine = sums.torches.filter((one) => one.torch === torch && months.includes(one.month));
          return (
            <g key={torch}>
              <polyline
                points={mine.map((one) => `${x(one.month)},${y(one.ratio)}`).join(" ")}
                fill="none"
                stroke="var(--ink)"
                strokeWidth={1.6}
                strokeDasharray={STROKES[n]}
              />
              {mine.map((one) => (
                <circle
                  key={one.month}
                  cx={x(one.month)}
                  cy={y(one.ratio)}
                  r={Math.min(5, 2 + Math.log10(one.heats + 1) * 1.5)}
                  fill="var(--ink)"
                />
              ))}
            </g>
          );
        })}
        <g transform="translate(66 0)">
          <MonthNames months={months} pitch={pitch} />
        </g>
      </svg>
      <ul className="flex flex-wrap gap-x-4 text-[13px] text-quiet">
        {torches.map((torch, n) => (
          <li key={torch} className="flex items-center gap-1.5">
            <svg width={26} height={6} aria-hidden>
              <path d="M0 3H26" stroke="var(--ink)" strokeWidth={1.6} strokeDasharray={STROKES[n]} />
            </svg>
            {names("torch", torch) || "not told"}
          </li>
        ))}
      </ul>
    </Plot>
  );
}

/** How long a step of each kind takes. */
function Minutes({ sums }: { sums: LogSums }) {
  const steps = [...sums.steps].sort((a, b) => b.minutes_each - a.minutes_each).slice(0, MOST_STEPS);
  if (steps.length === 0) return null;
  const longest = most(steps.map((one) => one.minutes_each));
  return (
    <Plot title="Minutes for a step">
      <Bars
        rows={steps.map(({ kind, minutes_each, times }) => ({
          name: kind.replaceAll("-", " "),
          share: minutes_each / longest,
          value: sayMinutes(minutes_each),
          beside: `${String(times)} ×`,
        }))}
      />
    </Plot>
  );
}

/** How much solder of each grade was laid. */
function Solder({ sums }: { sums: LogSums }) {
  const mg = new Map<string, number>();
  for (const month of sums.months)
    for (const [grade, some] of Object.entries(month.solder_mg)) mg.set(grade, (mg.get(grade) ?? 0) + some);
  const grades = [...mg].filter(([, some]) => some > 0).sort(([a], [b]) => orderOf(a) - orderOf(b));
  if (grades.length === 0) return null;
  const heaviest = most(grades.map(([, some]) => some));
  const all = grades.reduce((sum, [, some]) => sum + some, 0);
  return (
    <Plot title="Solder laid" told={sayMass(all)}>
      <Bars
        rows={grades.map(([grade, some]) => ({
          name: gradeWords(grade as never),
          share: some / heaviest,
          value: sayMass(some),
          beside: "",
        }))}
      />
    </Plot>
  );
}

const sayMass = (mg: number) => (mg < 1000 ? `${mg.toFixed(0)} mg` : `${(mg / 1000).toFixed(1)} g`);

type Bar = { name: string; share: number; value: string; beside: string };

function Bars({ rows }: { rows: Bar[] }) {
  return (
    <dl className="text-[14px]">
      {rows.map(({ name, share: part, value, beside }) => (
        <div key={name} className="grid grid-cols-[84px_1fr_72px_64px] items-center gap-2 py-0.5">
          <dt className="truncate">{name}</dt>
          <dd className="h-3">
            <span className="block h-full bg-metal" style={{ width: `${String(100 * part)}%` }} />
          </dd>
          <dd className="figures text-right">{value}</dd>
          <dd className="figures text-right text-[12px] text-quiet">{beside}</dd>
        </div>
      ))}
    </dl>
  );
}
