import type { PieceDocument, Work } from "../api/types";
import { changeWork, titleOf } from "../document/edit";
import type { Edits } from "../document/useEdits";
import { TextField, Tick } from "../parts/Field";
import { optionsOf } from "../parts/Select";
import { Ticks } from "../parts/Ticks";
import { WorkMeasures } from "./WorkMeasures";

export const WORK_WORDS = optionsOf<Work["kind"]>({
  anneal: "anneal",
  bend: "bend",
  dome: "dome",
  twist: "twist",
  roll: "roll",
  draw: "draw",
  forge: "forge",
  texture: "texture",
  saw: "saw",
  divide: "divide",
  trim: "trim",
  drill: "drill",
  ball: "ball",
  melt: "melt",
  pour: "pour",
  deplete: "deplete",
  hang: "hang",
  bind: "bind",
  unbind: "unbind",
  resist: "resist",
  size: "size",
  dry: "dry",
  set: "set",
  press: "press",
  dimple: "dimple",
  straighten: "straighten",
  flatten: "flatten",
  tap: "tap a thread",
  engrave: "engrave",
  harden: "harden",
  tumble: "tumble",
  finish: "finish",
  darken: "darken",
  seal: "seal",
});
const SEALING: Work["kind"][] = ["forge", "flatten", "press", "roll"];

export type WorkFieldsProps = { work: Work; document: PieceDocument; edits: Edits };

/** Everything about other work that can be changed in place. */
export function WorkFields({ work, document, edits }: WorkFieldsProps) {
  const change = (what: string, values: Partial<Work>) =>
    edits.apply(`${what} of ${titleOf(work)}`, (now) => changeWork(now, work.id, values));
  const steps = [...document.joins, ...document.work]
    .filter((one) => one.id !== work.id)
    .map((one) => [one.id, titleOf(one)] as const);
  const tubes = document.parts.filter((part) => part.form.kind === "tube");
  const hollows = [
    ...[...new Set(document.joins.flatMap((join) => join.encloses ?? []))].map((one) => [one, one] as const),
    ...tubes.map((part) => [part.id, titleOf(part)] as const),
  ];
  return (
    <div className="grid grid-cols-2 gap-x-4 gap-y-2">
      <TextField
        label="Name"
        value={work.name}
        placeholder={titleOf(work)}
        onCommit={(name) => change("name", { name })}
      />
      <WorkMeasures work={work} change={change} />
      <Ticks
        label="Parts"
        options={document.parts.map((part) => [part.id, titleOf(part)] as const)}
        chosen={work.parts}
        onChange={(parts) => change("parts", { parts })}
      />
      <Ticks
        label="Comes after"
        options={steps}
        chosen={work.after}
        onChange={(after) => change("order", { after })}
      />
      <Ticks
        label="Comes before"
        options={steps}
        chosen={work.before}
        onChange={(before) => change("order", { before })}
      />
      <Tick label="done already" ticked={work.done} onTick={(done) => change("state", { done })} />
      {work.kind === "drill" && (
        <Ticks
          label="Vents"
          options={hollows}
          chosen={work.vents}
          onChange={(vents) => change("vents", { vents })}
        />
      )}
      {SEALING.includes(work.kind) && tubes.length > 0 && (
        <Ticks
          label="Closes the ends of"
          options={tubes.map((part) => [part.id, titleOf(part)] as const)}
          chosen={work.seals}
          onChange={(seals) => change("seals", { seals })}
        />
      )}
    </div>
  );
}
