/** The fields of a form: its section or outline and its sizes. */
import { type BendName, bendForm } from "../api/queries";
import type { Form, Outline, Profile } from "../api/types";
import { boxed, Choice, Field, NumberField, TextField, Tick } from "../parts/Field";
import { LengthField } from "../parts/LengthField";
import { Menu, optionsOf } from "../parts/Select";
import { freshOutline, freshProfile, OUTLINE_WORDS, PROFILE_WORDS } from "./edit";
import { readCourse, sayCourse } from "./sections";

/** The sizes of each form, section and outline: which keys hold a length, and what they are called. */
type Lengths = readonly (readonly [key: string, label: string])[];
const LENGTH: Lengths = [["length_mm", "Length"]];
const DIAMETER: Lengths = [["diameter_mm", "Diameter"]];
const FORM_SIZES: Record<Form["kind"], Lengths> = {
  wire: LENGTH,
  strip: [["width_mm", "Width"], ["thickness_mm", "Thickness"], ...LENGTH],
  sheet: [["thickness_mm", "Thickness"]],
  tube: [["outer_mm", "Outer diameter"], ["wall_mm", "Wall"], ...LENGTH],
  ball: DIAMETER,
  lump: [],
};
const SECTION_SIZES: Record<Profile["kind"], Lengths> = {
  round: DIAMETER,
  square: [["side_mm", "Side"]],
  rect: [
    ["width_mm", "Section width"],
    ["height_mm", "Section height"],
  ],
  "half-round": [
    ["width_mm", "Section width"],
    ["height_mm", "Section height"],
  ],
};
const OUTLINE_SIZES: Record<Outline["kind"], Lengths> = {
  disc: DIAMETER,
  ring: [
    ["outer_mm", "Outer diameter"],
    ["inner_mm", "Inner diameter"],
  ],
  ellipse: [
    ["width_mm", "Width"],
    ["height_mm", "Height"],
  ],
  rect: [
    ["width_mm", "Width"],
    ["height_mm", "Height"],
    ["corner_mm", "Corners"],
  ],
  polygon: [],
  path: [],
};

/** Sizes that stock comes in: a gauge is told beside these alone. */
const STOCK = new Set(["Diameter", "Side", "Thickness", "Wall", "Section height"]);

type SizesProps<T> = { of: T; lengths: Lengths; onChange: (changed: T) => void };

function Sizes<T extends object>({ of, lengths, onChange }: SizesProps<T>) {
  return lengths.map(([key, label]) => (
    <LengthField
      key={key}
      label={label}
      mm={Number((of as Record<string, unknown>)[key])}
      zero={key === "corner_mm"}
      stock={STOCK.has(label)}
      onCommit={(mm) => onChange({ ...of, [key]: mm })}
    />
  ));
}

export type FormFieldsProps = { form: Form; onChange: (form: Form) => void };

/** Every field of a form. */
export function FormFields({ form, onChange }: FormFieldsProps) {
  return (
    <>
      {form.kind === "wire" && <Section form={form} onChange={onChange} />}
      {form.kind === "sheet" && (
        <Choice
          label="Outline"
          value={form.outline.kind}
          options={OUTLINE_WORDS}
          onChoose={(kind) => onChange({ ...form, outline: freshOutline(kind) })}
        />
      )}
      <Sizes of={form} lengths={FORM_SIZES[form.kind]} onChange={onChange} />
      {form.kind === "sheet" && (
        <>
          <OutlineFields outline={form.outline} onChange={(outline) => onChange({ ...form, outline })} />
          <LengthField
            label="Domed by"
            mm={form.domed_mm}
            zero
            onCommit={(domed_mm) => onChange({ ...form, domed_mm })}
          />
        </>
      )}
      {(form.kind === "wire" || form.kind === "strip") && (
        <Tick
          label="closed to a ring"
          ticked={form.closed}
          onTick={(closed) => onChange({ ...form, closed })}
        />
      )}
      {(form.kind === "wire" || form.kind === "strip") && <Course form={form} onChange={onChange} />}
      {form.kind === "wire" && <Twist form={form} onChange={onChange} />}
      {form.kind === "tube" && (
        <NumberField
          label="Sealed ends"
          value={form.sealed_ends}
          whole
          onCommit={(sealed_ends) => onChange({ ...form, sealed_ends })}
        />
      )}
      {form.kind === "lump" && (
        <>
          <NumberField
            label="Mass"
            unit="g"
            value={form.mass_g}
            onCommit={(mass_g) => onChange({ ...form, mass_g })}
          />
          <NumberField
            label="Surface"
            unit="mm²"
            value={form.surface_mm2}
            onCommit={(surface_mm2) => onChange({ ...form, surface_mm2 })}
          />
        </>
      )}
    </>
  );
}

type SectionProps = { form: Extract<Form, { kind: "wire" }>; onChange: (form: Form) => void };

function Section({ form, onChange }: SectionProps) {
  return (
    <>
      <Choice
        label="Section"
        value={form.profile.kind}
        options={PROFILE_WORDS}
        onChoose={(kind) => onChange({ ...form, profile: freshProfile(kind) })}
      />
      <Sizes
        of={form.profile}
        lengths={SECTION_SIZES[form.profile.kind]}
        onChange={(profile) => onChange({ ...form, profile })}
      />
    </>
  );
}

type CourseProps = { form: Extract<Form, { kind: "wire" | "strip" }>; onChange: (form: Form) => void };

type Bend = BendName | "points";

const BENDS = optionsOf<Bend>({
  points: "points to drag",
  hook: "a hook",
  "s-bend": "an S",
  zigzag: "a zigzag",
  oval: "an oval, closed",
  spiral: "a spiral",
});

/** What it is bent along: points or a path as they are typed, or a bend by its name, as long as it is. */
function Course({ form, onChange }: CourseProps) {
  const bend = async (name: Bend) =>
    onChange(
      name === "points"
        ? { ...form, path: threePoints(form.length_mm) }
        : ((await bendForm(form, name)) as Form),
    );
  return (
    <div className="col-span-2 flex items-end gap-2">
      <div className="min-w-0 flex-1">
        <TextField
          label="Bent along, in plan"
          value={sayCourse(form.path as Parameters<typeof sayCourse>[0])}
          placeholder="straight; 0 0, 10 0, 10 5, or an SVG path"
          onCommit={(typed) => {
            const path = readCourse(typed);
            if (path !== undefined) onChange({ ...form, path });
          }}
        />
      </div>
      <Menu
        label="bend to …"
        options={BENDS}
        onChoose={(name) => void bend(name)}
        className={`${boxed} !w-32`}
      />
    </div>
  );
}

/** A straight run with a point in its middle, to be bent by hand. */
const threePoints = (long: number): [number, number][] => [
  [0, 0],
  [Math.round(long * 50) / 100, 0],
  [long, 0],
];

/** Strands that are twisted together, and how far one full turn goes. */
function Twist({ form, onChange }: SectionProps) {
  const twisted = (strands: number) =>
    onChange({ ...form, strands, pitch_mm: strands > 1 ? (form.pitch_mm ?? 6) : null });
  return (
    <>
      <NumberField label="Strands, twisted" value={form.strands} whole onCommit={twisted} />
      {form.strands > 1 && (
        <LengthField
          label="Pitch, one full turn"
          mm={form.pitch_mm ?? 6}
          onCommit={(pitch_mm) => onChange({ ...form, pitch_mm })}
        />
      )}
    </>
  );
}

type OutlineFieldsProps = { outline: Outline; onChange: (outline: Outline) => void };

function OutlineFields({ outline, onChange }: OutlineFieldsProps) {
  if (outline.kind === "polygon")
    return <PointsField points={outline.points} onCommit={(points) => onChange({ ...outline, points })} />;
  if (outline.kind === "path")
    return (
      <TextField
        label="SVG path, mm"
        value={outline.path}
        wide
        onCommit={(path) => onChange({ ...outline, path })}
      />
    );
  return <Sizes of={outline} lengths={OUTLINE_SIZES[outline.kind]} onChange={onChange} />;
}

type Points = [number, number][];

function PointsField({ points, onCommit }: { points: Points; onCommit: (points: Points) => void }) {
  const text = points.map((point) => point.join(" ")).join(", ");
  const commit = (typed: string) => {
    const read = typed.split(",").map((pair) => pair.trim().split(/\s+/).map(Number));
    const sound = read.length >= 3 && read.every((pair) => pair.length === 2 && pair.every(Number.isFinite));
    if (sound) onCommit(read as Points);
  };
  return (
    <Field label="Corners, mm: x y, x y, …" wide>
      {(id) => (
        <input
          id={id}
          key={text}
          className={`${boxed} figures`}
          defaultValue={text}
          onBlur={(event) => event.target.value !== text && commit(event.target.value)}
          onKeyDown={(event) => event.key === "Enter" && commit(event.currentTarget.value)}
        />
      )}
    </Field>
  );
}
