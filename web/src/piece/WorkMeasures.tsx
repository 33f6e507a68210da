import type { Work } from "../api/types";
import { NumberField, TextField } from "../parts/Field";
import { LengthField } from "../parts/LengthField";
import { readLength } from "../parts/readLength";
import { bareLength } from "../parts/units";
import { useUnits } from "../parts/useUnits";

type Kind = Work["kind"];

const FORMING: Kind[] = ["bend", "dome", "twist", "roll", "draw", "forge", "texture"];
const MEASURED: Kind[] = ["size", "dome", "forge", "roll", "draw", "press"];
const CUT_TO: Kind[] = ["trim", "saw", "divide"];
const MARKED: Kind[] = ["bend", "drill", "saw", "dimple"];
const COUNTED: Kind[] = ["deplete", "darken"];
const CHARGED: Kind[] = ["melt", "pour"];

export type WorkMeasuresProps = { work: Work; change: (what: string, values: Partial<Work>) => void };

/** The numbers that a kind of work has: what it is worked to, over what, how far and how often. */
export function WorkMeasures({ work, change }: WorkMeasuresProps) {
  const units = useUnits();
  const { kind, target } = work;
  const marks = work.marks_mm.map((mm) => bareLength(mm, units)).join(", ");
  const mark = (typed: string) => {
    const read = typed.split(/[,;]\s+|\s*;\s*|\s+/).filter(Boolean);
    const lengths = read.flatMap((one) => {
      const length = readLength(one, units);
      return "problem" in length ? [] : [length.value];
    });
    if (lengths.length === read.length) change("marks", { marks_mm: lengths });
  };
  return (
    <>
      {FORMING.includes(kind) && (
        <NumberField
          label="Reduction (0: the usual)"
          unit="%"
          value={work.reduction_pct ?? 0}
          onCommit={(pct) => change("reduction", { reduction_pct: pct || null })}
        />
      )}
      {kind === "twist" && (
        <NumberField
          label="Turns"
          value={work.turns ?? 0}
          onCommit={(turns) => change("turns", { turns: turns || null })}
        />
      )}
      {kind === "bend" && (
        <>
          <LengthField
            label="Over a dowel"
            zero
            mm={work.dowel_mm ?? 0}
            onCommit={(mm) => change("dowel", { dowel_mm: mm || null })}
          />
          <NumberField
            label="Angle"
            unit="°"
            value={work.angle_deg ?? 0}
            onCommit={(deg) => change("angle", { angle_deg: deg || null })}
          />
        </>
      )}
      {kind === "ball" && (
        <LengthField
          label="Ball"
          mm={work.ball_mm ?? 0}
          onCommit={(ball_mm) => change("ball", { ball_mm })}
        />
      )}
      {CHARGED.includes(kind) && (
        <NumberField
          label="Charge"
          unit="g, 0 for all of it"
          value={work.mass_g ?? 0}
          onCommit={(grams) => change("charge", { mass_g: grams || null })}
        />
      )}
      {COUNTED.includes(kind) && (
        <NumberField
          label="Times"
          whole
          value={work.times ?? 1}
          onCommit={(times) => change("times", { times: times > 1 ? times : null })}
        />
      )}
      {CUT_TO.includes(kind) && (
        <LengthField
          label="Down to"
          zero
          mm={work.to_mm ?? 0}
          onCommit={(mm) => change("length", { to_mm: mm || null })}
        />
      )}
      {MARKED.includes(kind) && <TextField label="Marks at" value={marks} onCommit={mark} />}
      {MEASURED.includes(kind) && (
        <>
          <LengthField
            label="Comes out at"
            zero
            mm={target?.mm ?? 0}
            onCommit={(mm) =>
              change("size", {
                target: mm ? { mm, within_mm: target?.within_mm ?? 0.1, what: target?.what ?? "" } : null,
              })
            }
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
      )}
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
