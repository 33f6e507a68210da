import type { Form, Part, PieceDocument, Tables } from "../api/types";
import { changePart, FORM_WORDS, freshForm, titleOf } from "../document/edit";
import { FormFields } from "../document/FormFields";
import type { Edits } from "../document/useEdits";
import { Choice, NumberField, TextField, Tick } from "../parts/Field";
import { optionsOf } from "../parts/Select";

const TEMPERS = optionsOf<Extract<Part["temper"], string>>({
  soft: "soft",
  "quarter-hard": "quarter-hard",
  "half-hard": "half-hard",
  hard: "hard",
  spring: "spring",
  unknown: "unknown",
});

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
        onChoose={(kind) => setForm(freshForm(kind))}
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
        onChoose={(temper) => change("temper", { temper })}
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
        onChoose={(stands) => onChange(stands === "auto" ? null : { ...place, stands })}
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
