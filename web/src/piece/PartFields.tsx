import type { Form, Outline, Part, PieceDocument, Profile, Tables } from "../api/types";
import { boxed, Choice, Field, NumberField, TextField, Tick } from "../parts/Field";
import { LengthField } from "../parts/LengthField";
import {
  changePart,
  FORM_WORDS,
  type FormKind,
  freshForm,
  freshOutline,
  freshProfile,
  OUTLINE_WORDS,
  PROFILE_WORDS,
  titleOf,
} from "./edit";
import type { Edits } from "./useEdits";

const TEMPERS = ["soft", "quarter-hard", "half-hard", "hard", "spring", "unknown"].map(
  (one) => [one, one] as const,
);

export type PartFieldsProps = {
  part: Part;
  document: PieceDocument;
  tables: Tables | undefined;
  edits: Edits;
};

/** Everything about a part that can be changed in place. */
export function PartFields({ part, document, tables, edits }: PartFieldsProps) {
  const change = (what: string, values: Partial<Part>) =>
    edits.apply(`${what} of ${titleOf(part)}`, (now) => changePart(now, part.id, values));
  const metals = [...(tables?.metals ?? []), ...document.metals].map(
    (metal) => [metal.id, metal.name] as const,
  );
  const setForm = (form: Form) => change("form", { form });
  return (
    <div className="grid grid-cols-2 gap-x-4 gap-y-2">
      <TextField
        label="Name"
        value={part.name}
        placeholder={titleOf(part)}
        onCommit={(name) => change("name", { name })}
      />
      <Choice
        label="Metal"
        value={part.metal ?? ""}
        options={[...metals, ["", "none: a stone"] as const]}
        onChoose={(id) => change("metal", id ? { metal: id } : { metal: null, heat_safe: false })}
      />
      <Choice
        label="Form"
        value={part.form.kind}
        options={FORM_WORDS}
        onChoose={(kind) => setForm(freshForm(kind as FormKind))}
      />
      <NumberField
        label="How many alike"
        value={part.count}
        whole
        onCommit={(count) => change("count", { count })}
      />
      <FormFields form={part.form} onChange={setForm} />
      <Choice
        label="Temper"
        value={typeof part.temper === "string" ? part.temper : "soft"}
        options={TEMPERS}
        onChoose={(temper) => change("temper", { temper: temper as Part["temper"] })}
      />
      <PlaceFields part={part} onChange={(place) => change("place", { place })} />
      <div className="col-span-2 flex flex-wrap gap-x-5">
        <Tick
          label="stays free to move"
          ticked={part.moves}
          onTick={(moves) => change("freedom", { moves })}
        />
        <Tick label="springy" ticked={part.spring} onTick={(spring) => change("spring", { spring })} />
        <Tick
          label="bought"
          ticked={part.bought_in}
          onTick={(bought_in) => change("origin", { bought_in })}
        />
        <Tick
          label="bears heat"
          ticked={part.heat_safe}
          onTick={(heat_safe) => change("heat", { heat_safe })}
        />
      </div>
    </div>
  );
}

type FormFieldsProps<F> = { form: F; onChange: (form: Form) => void };

function FormFields({ form, onChange }: FormFieldsProps<Form>) {
  switch (form.kind) {
    case "wire":
      return (
        <>
          <Choice
            label="Section"
            value={form.profile.kind}
            options={PROFILE_WORDS}
            onChoose={(kind) => onChange({ ...form, profile: freshProfile(kind as Profile["kind"]) })}
          />
          <ProfileFields profile={form.profile} onChange={(profile) => onChange({ ...form, profile })} />
          <LengthField
            label="Length"
            mm={form.length_mm}
            onCommit={(length_mm) => onChange({ ...form, length_mm })}
          />
          <Tick
            label="closed to a ring"
            ticked={form.closed}
            onTick={(closed) => onChange({ ...form, closed })}
          />
        </>
      );
    case "strip":
      return (
        <>
          <LengthField
            label="Width"
            mm={form.width_mm}
            onCommit={(width_mm) => onChange({ ...form, width_mm })}
          />
          <LengthField
            label="Thickness"
            mm={form.thickness_mm}
            onCommit={(thickness_mm) => onChange({ ...form, thickness_mm })}
          />
          <LengthField
            label="Length"
            mm={form.length_mm}
            onCommit={(length_mm) => onChange({ ...form, length_mm })}
          />
          <Tick
            label="closed to a ring"
            ticked={form.closed}
            onTick={(closed) => onChange({ ...form, closed })}
          />
        </>
      );
    case "sheet":
      return (
        <>
          <Choice
            label="Outline"
            value={form.outline.kind}
            options={OUTLINE_WORDS}
            onChoose={(kind) => onChange({ ...form, outline: freshOutline(kind as Outline["kind"]) })}
          />
          <LengthField
            label="Thickness"
            mm={form.thickness_mm}
            onCommit={(thickness_mm) => onChange({ ...form, thickness_mm })}
          />
          <OutlineFields outline={form.outline} onChange={(outline) => onChange({ ...form, outline })} />
          <LengthField
            label="Domed by"
            mm={form.domed_mm}
            zero
            onCommit={(domed_mm) => onChange({ ...form, domed_mm })}
          />
        </>
      );
    case "tube":
      return (
        <>
          <LengthField
            label="Outer diameter"
            mm={form.outer_mm}
            onCommit={(outer_mm) => onChange({ ...form, outer_mm })}
          />
          <LengthField
            label="Wall"
            mm={form.wall_mm}
            onCommit={(wall_mm) => onChange({ ...form, wall_mm })}
          />
          <LengthField
            label="Length"
            mm={form.length_mm}
            onCommit={(length_mm) => onChange({ ...form, length_mm })}
          />
          <NumberField
            label="Sealed ends"
            value={form.sealed_ends}
            whole
            onCommit={(sealed_ends) => onChange({ ...form, sealed_ends })}
          />
        </>
      );
    case "ball":
      return (
        <LengthField
          label="Diameter"
          mm={form.diameter_mm}
          onCommit={(diameter_mm) => onChange({ ...form, diameter_mm })}
        />
      );
    case "lump":
      return (
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
      );
  }
}

function ProfileFields({ profile, onChange }: { profile: Profile; onChange: (profile: Profile) => void }) {
  switch (profile.kind) {
    case "round":
      return (
        <LengthField
          label="Diameter"
          mm={profile.diameter_mm}
          onCommit={(diameter_mm) => onChange({ ...profile, diameter_mm })}
        />
      );
    case "square":
      return (
        <LengthField
          label="Side"
          mm={profile.side_mm}
          onCommit={(side_mm) => onChange({ ...profile, side_mm })}
        />
      );
    default:
      return (
        <>
          <LengthField
            label="Section width"
            mm={profile.width_mm}
            onCommit={(width_mm) => onChange({ ...profile, width_mm })}
          />
          <LengthField
            label="Section height"
            mm={profile.height_mm}
            onCommit={(height_mm) => onChange({ ...profile, height_mm })}
          />
        </>
      );
  }
}

function OutlineFields({ outline, onChange }: { outline: Outline; onChange: (outline: Outline) => void }) {
  switch (outline.kind) {
    case "disc":
      return (
        <LengthField
          label="Diameter"
          mm={outline.diameter_mm}
          onCommit={(diameter_mm) => onChange({ ...outline, diameter_mm })}
        />
      );
    case "ring":
      return (
        <>
          <LengthField
            label="Outer diameter"
            mm={outline.outer_mm}
            onCommit={(outer_mm) => onChange({ ...outline, outer_mm })}
          />
          <LengthField
            label="Inner diameter"
            mm={outline.inner_mm}
            onCommit={(inner_mm) => onChange({ ...outline, inner_mm })}
          />
        </>
      );
    case "polygon":
      return <PointsField points={outline.points} onCommit={(points) => onChange({ ...outline, points })} />;
    case "path":
      return (
        <TextField
          label="SVG path, mm"
          value={outline.path}
          wide
          onCommit={(path) => onChange({ ...outline, path })}
        />
      );
    default:
      return (
        <>
          <LengthField
            label="Width"
            mm={outline.width_mm}
            onCommit={(width_mm) => onChange({ ...outline, width_mm })}
          />
          <LengthField
            label="Height"
            mm={outline.height_mm}
            onCommit={(height_mm) => onChange({ ...outline, height_mm })}
          />
        </>
      );
  }
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

function PlaceFields({ part, onChange }: { part: Part; onChange: (place: Part["place"]) => void }) {
  const place = part.place;
  if (!place) {
    return (
      <Choice
        label="Place in the picture"
        value="auto"
        options={[
          ["auto", "beside what it joins"],
          ["hand", "where I put it"],
        ]}
        onChoose={() => onChange({ x_mm: 0, y_mm: 0, z_mm: 0, turn_deg: 0, stands: "flat" })}
      />
    );
  }
  return (
    <>
      <Choice
        label="Place in the picture"
        value={place.stands}
        options={[
          ["flat", "put by hand, flat"],
          ["upright", "put by hand, upright"],
          ["auto", "beside what it joins"],
        ]}
        onChoose={(stands) =>
          onChange(stands === "auto" ? null : { ...place, stands: stands as "flat" | "upright" })
        }
      />
      <NumberField
        label="Across"
        unit="mm"
        value={place.x_mm}
        onCommit={(x_mm) => onChange({ ...place, x_mm })}
      />
      <NumberField
        label="Down"
        unit="mm"
        value={place.y_mm}
        onCommit={(y_mm) => onChange({ ...place, y_mm })}
      />
      <NumberField
        label="Turned"
        unit="°"
        value={place.turn_deg}
        onCommit={(turn_deg) => onChange({ ...place, turn_deg })}
      />
    </>
  );
}
