import type { Work } from "../api/types";
import { readSection, saySection } from "../document/sections";
import { NumberField, TextField } from "../parts/Field";
import { LengthField } from "../parts/LengthField";
import { readLength } from "../parts/readLength";
import { bareLength } from "../parts/units";
import { useUnits } from "../parts/useUnits";

type Kind = Work["kind"];
type Change = (what: string, values: Partial<Work>) => void;

const FORMING: Kind[] = ["bend", "dome", "twist", "roll", "draw", "forge", "texture"];
const MEASURED: Kind[] = ["size", "dome", "forge", "roll", "draw", "press"];
const MARKED: Kind[] = ["bend", "drill", "saw", "dimple"];

type Measure = {
  of: Kind[];
  label: string;
  unit?: string;
  whole?: boolean;
  read: (work: Work) => number | null | undefined;
  write: (value: number | null) => Partial<Work>;
};

/** Plain numbers; where one is 0 it is not told. */
const NUMBERS: Measure[] = [
  {
    of: FORMING,
    label: "Reduction (0: the usual)",
    unit: "%",
    read: (work) => work.reduction_pct,
    write: (reduction_pct) => ({ reduction_pct }),
  },
  { of: ["twist"], label: "Turns", read: (work) => work.turns, write: (turns) => ({ turns }) },
  {
    of: ["bend"],
    label: "Angle",
    unit: "°",
    read: (work) => work.angle_deg,
    write: (angle_deg) => ({ angle_deg }),
  },
  {
    of: ["melt", "pour"],
    label: "Charge (0: all of it)",
    unit: "g",
    read: (work) => work.mass_g,
    write: (mass_g) => ({ mass_g }),
  },
  {
    of: ["deplete", "darken"],
    label: "Times (0: once)",
    whole: true,
    read: (work) => work.times,
    write: (times) => ({ times }),
  },
];

type LengthMeasure = Omit<Measure, "unit" | "whole">;

/** Lengths; where one is 0 it is not told. */
const LENGTHS: LengthMeasure[] = [
  {
    of: ["bend"],
    label: "Over a dowel",
    read: (work) => work.dowel_mm,
    write: (dowel_mm) => ({ dowel_mm }),
  },
  { of: ["ball"], label: "Ball", read: (work) => work.ball_mm, write: (ball_mm) => ({ ball_mm }) },
  {
    of: ["trim", "saw", "divide"],
    label: "Down to",
    read: (work) => work.to_mm,
    write: (to_mm) => ({ to_mm }),
  },
];

export type WorkMeasuresProps = { work: Work; change: Change };

/** The numbers that a kind of work has: what it is worked to, over what, how far and how often. */
export function WorkMeasures({ work, change }: WorkMeasuresProps) {
  const { kind } = work;
  return (
    <>
      {NUMBERS.filter(({ of }) => of.includes(kind)).map(({ label, read, write, ...more }) => (
        <NumberField
          key={label}
          label={label}
          unit={more.unit}
          whole={more.whole}
          value={read(work) ?? 0}
          onCommit={(value) => change(label.toLowerCase(), write(value || null))}
        />
      ))}
      {LENGTHS.filter(({ of }) => of.includes(kind)).map(({ label, read, write }) => (
        <LengthField
          key={label}
          label={label}
          zero
          mm={read(work) ?? 0}
          onCommit={(mm) => change(label.toLowerCase(), write(mm || null))}
        />
      ))}
      {DRAWN.includes(kind) && <Sections work={work} change={change} />}
      {MARKED.includes(kind) && <Marks work={work} change={change} />}
      {MEASURED.includes(kind) && <Target work={work} change={change} />}
      {kind === "finish" && (
        <TextField
          label="Grit or compound"
          value={String(work.stage ?? "")}
          onCommit={(stage) =>
            change("stage", { stage: /^\d+$/.test(stage) ? Number(stage) : stage || null })
          }
        />
      )}
    </>
  );
}

const DRAWN: Work["kind"][] = ["roll", "draw", "forge"];

/** The section that it comes from and the one that it is worked to, said in a few words. */
function Sections({ work, change }: WorkMeasuresProps) {
  const units = useUnits();
  const ends = [
    ["from", "From a section"],
    ["to", "To a section"],
  ] as const;
  return ends.map(([key, label]) => {
    const standing = work[key];
    return (
      <TextField
        key={key}
        label={label}
        value={standing ? saySection(standing, units) : ""}
        placeholder={key === "from" ? "square 6" : "round 2, flat 8 × 2"}
        onCommit={(typed) => {
          const read = typed.trim() === "" ? null : readSection(typed, units);
          if (read || typed.trim() === "") change("section", { [key]: read });
        }}
      />
    );
  });
}

/** Where marks stand from the one end, typed one after another; kept when all of them are understood. */
function Marks({ work, change }: WorkMeasuresProps) {
  const units = useUnits();
  const write = (typed: string) => {
    const told = typed.split(/[,;]\s+|\s*;\s*|\s+/).filter(Boolean);
    const read = told.map((one) => readLength(one, units));
    const marks_mm = read.flatMap((one) => ("problem" in one ? [] : [one.value]));
    if (marks_mm.length === told.length) change("marks", { marks_mm });
  };
  const standing = work.marks_mm.map((mm) => bareLength(mm, units)).join(", ");
  return <TextField label="Marks at" value={standing} onCommit={write} />;
}

/** The size that work comes out at, and how near it is to be. */
function Target({ work: { target }, change }: WorkMeasuresProps) {
  const sized = (mm: number) =>
    mm ? { mm, within_mm: target?.within_mm ?? 0.1, what: target?.what ?? "" } : null;
  return (
    <>
      <LengthField
        label="Comes out at"
        zero
        mm={target?.mm ?? 0}
        onCommit={(mm) => change("size", { target: sized(mm) })}
      />
      {target && (
        <>
          <LengthField
            label="Within"
            mm={target.within_mm}
            onCommit={(within_mm) => change("tolerance", { target: { ...target, within_mm } })}
          />
          <TextField
            label="Measured"
            value={target.what}
            placeholder="inside, across, thick"
            onCommit={(what) => change("what is measured", { target: { ...target, what } })}
          />
        </>
      )}
    </>
  );
}
