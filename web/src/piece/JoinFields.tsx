import type { Join, PieceDocument } from "../api/types";
import { changeJoin, titleOf } from "../document/edit";
import { PLACINGS } from "../document/heatWords";
import type { Edits } from "../document/useEdits";
import { boxed, Choice, Field, Fold, NumberField, TextField, Tick } from "../parts/Field";
import { Menu, optionsOf } from "../parts/Select";
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

type Change = (what: string, values: Partial<Join>) => void;
type OfJoin = { join: Join; change: Change };

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
  const change: Change = (what, values) =>
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
      <Fold title="Hollow, gap, where it is measured, what is beside it">
        <TextField
          label="Closes the hollow called"
          value={join.encloses ?? ""}
          placeholder="none"
          onCommit={(name) => change("hollow", { encloses: name.trim() || null })}
        />
        <Measured label="Gap, mm" value={join.gap_mm} onCommit={(gap_mm) => change("gap", { gap_mm })} />
        <Measured label="Seam, mm" value={join.seam_mm} onCommit={(seam_mm) => change("seam", { seam_mm })} />
        <Measured
          label="Contact, mm²"
          value={join.contact_mm2}
          onCommit={(contact_mm2) => change("contact", { contact_mm2 })}
        />
        <Spots join={join} change={change} />
        <Choice
          label="Something pulls on it"
          value={LOADED[String(join.loaded ?? null)] ?? "as held"}
          options={PULLS}
          onChoose={(pull) => change("load", { loaded: pull === "as held" ? null : pull === "always" })}
        />
        <Shields join={join} document={document} change={change} />
        <div className="col-span-2 flex flex-wrap gap-x-5">
          <Tick
            label="beside detail"
            ticked={join.beside_detail}
            onTick={(beside_detail) => change("detail", { beside_detail })}
          />
          <Tick
            label="sized later"
            ticked={join.resized_later}
            onTick={(resized_later) => change("sizing", { resized_later })}
          />
        </div>
      </Fold>
    </div>
  );
}

type Pull = "as held" | "always" | "never";
const PULLS = optionsOf<Pull>({ "as held": "where it is not held", always: "always", never: "never" });
const LOADED: Record<string, Pull> = { true: "always", false: "never", null: "as held" };
type How = Join["shields"][number]["how"];
const SHIELDED = optionsOf<How>({
  distance: "by distance",
  sink: "by a sink",
  wet: "by something wet",
  rehearsed: "as rehearsed",
});

/** Where it is kept cooler while another one is heated: by how much, and how. */
function Shields({ join, document, change }: OfJoin & { document: PieceDocument }) {
  const others = document.joins.filter((other) => other.id !== join.id);
  const set = (shields: Join["shields"]) => change("shield", { shields });
  const left = others.filter((other) => !join.shields.some((one) => one.during === other.id));
  return (
    <Field label="Kept cooler while another is heated" wide>
      {(id) => (
        <fieldset id={id} aria-label="Shields" className="space-y-1">
          {join.shields.map((shield, n) => {
            const put = (more: Partial<typeof shield>) =>
              set(join.shields.map((one, at) => (at === n ? { ...one, ...more } : one)));
            const title = titleOf(
              others.find((one) => one.id === shield.during) ?? { id: shield.during, name: "" },
            );
            return (
              <div key={shield.during} className="grid grid-cols-[1fr_90px_140px_auto] items-end gap-2">
                <span className="pb-2 text-[15px]">{title}</span>
                <NumberField
                  label="By"
                  unit="°C"
                  value={shield.degrees_c}
                  onCommit={(degrees_c) => put({ degrees_c })}
                />
                <Choice label="How" value={shield.how} options={SHIELDED} onChoose={(how) => put({ how })} />
                <button
                  type="button"
                  aria-label={`No shield from ${title}`}
                  className="min-h-9 px-2 text-quiet hover:text-ink"
                  onClick={() => set(join.shields.filter((one) => one !== shield))}
                >
                  ×
                </button>
              </div>
            );
          })}
          {left.length > 0 && (
            <Menu
              label="while …"
              options={left.map((other) => [other.id, titleOf(other)] as const)}
              onChoose={(during) => set([...join.shields, { during, degrees_c: 20, how: "sink" }])}
              className={`${boxed} !w-28`}
            />
          )}
        </fieldset>
      )}
    </Field>
  );
}

type MeasuredProps = {
  label: string;
  value: number | null | undefined;
  onCommit: (value: number | null) => void;
};

/** Something that was measured; empty, it is reckoned from the forms. */
function Measured({ label, value, onCommit }: MeasuredProps) {
  return (
    <TextField
      label={label}
      value={value == null ? "" : String(value)}
      placeholder="from the forms"
      onCommit={(text) => {
        const number = Number(text.replace(",", "."));
        if (text.trim() === "") onCommit(null);
        else if (Number.isFinite(number) && number > 0) onCommit(number);
      }}
    />
  );
}

/** Where it is, as points across and down in mm: one, or one for each of several. */
function Spots({ join, change }: OfJoin) {
  const spots = spotsOf(join);
  return (
    <TextField
      label="Where, across and down in mm"
      wide
      value={spots.map((spot) => spot.join(" ")).join(", ")}
      placeholder="where the parts meet; 4 -2, or 4 -2, 8 -2"
      onCommit={(text) => {
        const told = text
          .split(/[,;]/)
          .map((pair) => pair.trim().split(/\s+/).map(Number))
          .filter((pair): pair is [number, number] => pair.length === 2 && pair.every(Number.isFinite));
        if (text.trim() === "") change("place", { at: null });
        else if (told.length > 0) change("place", { at: told.length === 1 ? told[0] : told });
      }}
    />
  );
}

function spotsOf(join: Join): number[][] {
  const { at } = join;
  if (!at) return [];
  return typeof at[0] === "number" ? [at as number[]] : (at as number[][]);
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

export type TicksProps = {
  label: string;
  options: readonly (readonly [string, string])[];
  chosen: string[];
  onChange: (chosen: string[]) => void;
};

const FEW = 4;

/** Several of a few, ticked; of many, those that are chosen, and one list to choose further ones from. */
export function Ticks({ label, options, chosen, onChange }: TicksProps) {
  if (options.length === 0) return null;
  const without = (key: string) => chosen.filter((one) => one !== key);
  const told = options.filter(([key]) => chosen.includes(key));
  const left = options.filter(([key]) => !chosen.includes(key));
  return (
    <Field label={label} wide>
      {(id) => (
        <fieldset id={id} aria-label={label} className="flex flex-wrap items-center gap-x-5 gap-y-1">
          {options.length <= FEW
            ? options.map(([key, words]) => (
                <Tick
                  key={key}
                  label={words}
                  ticked={chosen.includes(key)}
                  onTick={(ticked) => onChange(ticked ? [...chosen, key] : without(key))}
                />
              ))
            : told.map(([key, words]) => (
                <button
                  key={key}
                  type="button"
                  aria-label={`${words}: take out`}
                  className="min-h-9 rounded border border-hair px-2.5 text-[15px] hover:border-quiet"
                  onClick={() => onChange(without(key))}
                >
                  {words} <span aria-hidden>×</span>
                </button>
              ))}
          {options.length > FEW && left.length > 0 && (
            <Menu
              label={told.length > 0 ? "and …" : "choose …"}
              options={left}
              onChoose={(key) => onChange([...chosen, key])}
              className={`${boxed} !w-28`}
            />
          )}
        </fieldset>
      )}
    </Field>
  );
}
