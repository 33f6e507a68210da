import type { Join, PieceDocument } from "../api/types";
import { changeJoin, titleOf } from "../document/edit";
import { PLACINGS } from "../document/heatWords";
import type { Edits } from "../document/useEdits";
import { Choice, TextField, Tick } from "../parts/Field";
import { optionsOf } from "../parts/Select";
import { Ticks } from "../parts/Ticks";
import { JoinDetail, type OfJoin } from "./JoinDetail";
import { MadeAlready } from "./MadeAlready";

const KINDS = optionsOf<Join["kind"]>({
  butt: "butt: end to end, or a ring closed",
  tee: "tee: an end on a face",
  edge: "edge: on edge",
  overlay: "overlay: face on face",
  line: "line: laid along",
  seat: "seat: a bezel or base",
  cross: "cross: wires crossing",
  bundle: "bundle: ends together",
  fuse: "fuse: no solder",
  "ring-open": "ring opened and closed, cold",
  wrap: "wrap, cold",
  rivet: "rivet, cold",
  screw: "screw, cold",
});
const HOLDS = optionsOf<Join["holds"]>({
  "own-weight": "its own weight",
  seated: "seated",
  bound: "bound with wire",
  clipped: "clipped",
  weighted: "weighted",
  hand: "by hand",
  nothing: "nothing",
});
const FACES = optionsOf<Join["face"]>({
  front: "front",
  back: "back",
  edge: "edge",
  inside: "inside",
});
const GRADES = optionsOf<"" | NonNullable<Join["grade"]>>({
  "": "chosen by the plan",
  hard: "hard, fixed",
  medium: "medium, fixed",
  easy: "easy, fixed",
  "extra-easy": "extra easy, fixed",
  it: "enamelling, fixed",
});
export type JoinFieldsProps = { join: Join; document: PieceDocument; edits: Edits };

const COLD: readonly Join["kind"][] = ["ring-open", "wrap", "rivet", "screw"];
const BINDING: readonly Join["holds"][] = ["bound", "clipped", "weighted"];

type Way = "either" | "brought" | "stands";
const BROUGHT = optionsOf<Way>({
  either: "whichever rehearses better",
  brought: "brought in when the solder is liquid",
  stands: "in its place from the start",
});
const BROUGHT_IN: Record<Way, boolean | null> = { either: null, brought: true, stands: false };
const BROUGHT_BACK: Record<string, Way> = { true: "brought", false: "stands" };

/** Everything about a join that can be changed in place. */
export function JoinFields({ join, document, edits }: JoinFieldsProps) {
  const change: OfJoin["change"] = (what, values) =>
    edits.apply(`${what} of ${titleOf(join)}`, (now) => changeJoin(now, join.id, values));
  const soldered = !COLD.includes(join.kind) && join.kind !== "fuse";
  return (
    <div className="grid grid-cols-2 gap-x-4 gap-y-2">
      <TextField
        label="Name"
        value={join.name}
        placeholder={titleOf(join)}
        onCommit={(name) => change("name", { name })}
      />
      <Choice label="Kind" value={join.kind} options={KINDS} onChoose={(kind) => change("kind", { kind })} />
      <Ends join={join} document={document} change={change} />
      <Hold join={join} change={change} />
      <Choice
        label="On the"
        value={join.face}
        options={FACES}
        onChoose={(face) => change("face", { face })}
      />
      {soldered && !join.made && <Soldered join={join} change={change} />}
      {!COLD.includes(join.kind) && join.between[0] !== join.between[1] && (
        <Choice
          label="The lighter part"
          value={BROUGHT_BACK[String(join.brought_in)] ?? "either"}
          options={BROUGHT}
          onChoose={(way) => change("way in", { brought_in: BROUGHT_IN[way] })}
        />
      )}
      <div className="col-span-2 flex flex-wrap gap-x-5">
        <Tick label="seen" ticked={join.visible} onTick={(visible) => change("sight", { visible })} />
        <Tick
          label="carries load"
          ticked={join.structural}
          onTick={(structural) => change("load", { structural })}
        />
      </div>
      <MadeAlready join={join} soldered={soldered} change={change} />
      <Orders join={join} document={document} change={change} />
      <JoinDetail join={join} document={document} change={change} />
    </div>
  );
}

/** The parts that it joins: a part as a whole, or one of its copies. */
function Ends({ join, document, change }: OfJoin & { document: PieceDocument }) {
  const parts = document.parts.flatMap((part) => [
    [part.id, titleOf(part)] as const,
    ...(part.count > 1
      ? Array.from(
          { length: part.count },
          (_, n) => [`${part.id}#${n + 1}`, `${titleOf(part)} ${n + 1}`] as const,
        )
      : []),
  ]);
  return join.between.map((end, at) => (
    <Choice
      key={`${String(at)}-${end}`}
      label={at === 0 ? "Between" : "and"}
      value={end}
      options={parts}
      onChoose={(part) =>
        change("parts", { between: join.between.map((other, n) => (n === at ? part : other)) })
      }
    />
  ));
}

/** What holds it in the heat, and what that is made of where it could solder itself on. */
function Hold({ join, change }: OfJoin) {
  return (
    <>
      <Choice
        label="Held by"
        value={join.holds}
        options={HOLDS}
        onChoose={(holds) => change("hold", { holds, bound_with: null })}
      />
      {BINDING.includes(join.holds) && (
        <Choice
          label="Bound with"
          value={join.bound_with ?? "steel"}
          options={[
            ["steel", "steel"],
            ["other", "something else"],
          ]}
          onChoose={(bound_with) => change("binding", { bound_with })}
        />
      )}
    </>
  );
}

/** Its solder and how that is laid: the plan's and the house's, or fixed. */
function Soldered({ join, change }: OfJoin) {
  return (
    <>
      <Choice
        label="Solder"
        value={join.grade ?? ""}
        options={GRADES}
        onChoose={(grade) => change("grade", { grade: grade || null, solder: null })}
      />
      <Choice
        label="Placing"
        value={join.placing ?? ""}
        options={[["", "as the house does"], ...PLACINGS]}
        onChoose={(placing) => change("placing", { placing: placing || null })}
      />
    </>
  );
}

/** The joins that it waits for, and what must hang in it before it closes. */
function Orders({ join, document, change }: OfJoin & { document: PieceDocument }) {
  const others = document.joins.filter((other) => other.id !== join.id);
  return (
    <>
      {others.length > 0 && (
        <Ticks
          label="Comes in a later heat than"
          options={others.map((other) => [other.id, titleOf(other)] as const)}
          chosen={join.after}
          onChange={(after) => change("order", { after })}
        />
      )}
      <Ticks
        label="Hanging in it when it closes"
        options={document.parts
          .filter((part) => !join.between.includes(part.id))
          .map((part) => [part.id, titleOf(part)] as const)}
        chosen={join.through}
        onChange={(through) => change("threading", { through })}
      />
    </>
  );
}
