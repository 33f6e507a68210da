import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { writeLines } from "../api/queries";
import type { Form, Part, PieceDocument, Tables } from "../api/types";
import { changePart, FORM_WORDS, freshForm, sayForm, titleOf } from "../document/edit";
import { FormFields } from "../document/FormFields";
import type { Edits } from "../document/useEdits";
import { Button } from "../parts/Button";
import { Choice, Fold, NumberField, TextField, Tick } from "../parts/Field";
import { optionsOf } from "../parts/Select";
import { useUnits } from "../parts/useUnits";
import { LineField } from "./LineField";

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
  const line = usePartLine(part);
  return (
    <div className="grid grid-cols-2 gap-x-4 gap-y-2">
      <div className="col-span-2">
        <LineField
          label={`${titleOf(part)} in a line`}
          document={document}
          base={part}
          standing={line}
          onTake={([said]) => said && change("form", said)}
        />
      </div>
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
        onChoose={(id) =>
          change("metal", id ? { metal: id, heat_safe: true } : { metal: null, heat_safe: false })
        }
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
      <div className="col-span-2 flex flex-wrap gap-x-5">
        <Tick label="springy" ticked={part.spring} onTick={(spring) => change("spring", { spring })} />
        <Tick
          label="stays free to move"
          ticked={part.moves}
          onTick={(moves) => change("freedom", { moves })}
        />
      </div>
      <Seldom part={part} document={document} change={change} />
    </div>
  );
}

type SeldomProps = {
  part: Part;
  document: PieceDocument;
  change: (what: string, values: Partial<Part>) => void;
};

/** What is seldom told of a part. */
function Seldom({ part, document, change }: SeldomProps) {
  const others = document.parts.filter((other) => other.id !== part.id);
  return (
    <Fold title="Where it lies, where it comes from, what it touches">
      <PlaceFields part={part} onChange={(place) => change("place", { place })} />
      <Choice
        label="Against skin"
        value={part.touches_skin}
        options={SKIN}
        onChoose={(touches_skin) => change("skin", { touches_skin })}
      />
      {others.length > 0 && (
        <Choice
          label="Cut from"
          value={part.from ?? ""}
          options={[["", "stock"], ...others.map((other) => [other.id, titleOf(other)] as const)]}
          onChoose={(from) => change("source", { from: from || null })}
        />
      )}
      <Rough part={part} document={document} onChange={(rough) => change("blank", { rough })} />
      <div className="col-span-2 flex flex-wrap gap-x-5">
        <Tick
          label="bought"
          ticked={part.bought_in}
          onTick={(bought_in) => change("origin", { bought_in })}
        />
        <Tick label="there already" ticked={part.made} onTick={(made) => change("state", { made })} />
        <Tick label="cast" ticked={part.cast} onTick={(cast) => change("origin", { cast })} />
        <Tick
          label="bears heat"
          ticked={part.heat_safe}
          onTick={(heat_safe) => change("heat", { heat_safe })}
        />
      </div>
    </Fold>
  );
}

const SKIN = optionsOf<Part["touches_skin"]>({ none: "no", on: "lies on it", through: "goes through it" });

/** The line of a part, as the core writes it. */
function usePartLine(part: Part): string {
  const { id: _, place: __, ...said } = part;
  const asked = useQuery({
    queryKey: ["line", said],
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
    queryFn: () => writeLines([part]),
  });
  return asked.data?.[0] ?? "";
}

type RoughProps = { part: Part; document: PieceDocument; onChange: (rough: Form | null) => void };

/** The form before trimming, where it is larger: said in a line. */
function Rough({ part, document, onChange }: RoughProps) {
  const units = useUnits();
  return (
    <div className="col-span-2">
      <p className="text-[13px] text-quiet">
        Before trimming{part.rough ? `: ${sayForm(part.rough, units)}` : ", where it is cut larger"}
      </p>
      <div className="flex items-start gap-2">
        <div className="min-w-0 flex-1">
          <LineField
            label="Before trimming"
            document={document}
            base={{ ...part, form: part.rough ?? part.form }}
            placeholder={part.rough ? "another line" : "disc 17 × 0.8"}
            onTake={([said]) => said && onChange(said.form)}
          />
        </div>
        {part.rough && (
          <Button look="bare" className="!min-h-11" onClick={() => onChange(null)}>
            As finished
          </Button>
        )}
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
        label="Up"
        unit="mm"
        value={place.z_mm}
        onCommit={(z_mm) => onChange({ ...place, z_mm })}
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
