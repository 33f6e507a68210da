import type { Join, PieceDocument } from "../api/types";
import { titleOf } from "../document/edit";
import { boxed, Choice, Field, Fold, NumberField, TextField, Tick } from "../parts/Field";
import { Menu, optionsOf } from "../parts/Select";

/** A join, and how it is changed: what that is called, and the new values. */
export type OfJoin = { join: Join; change: (what: string, values: Partial<Join>) => void };

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

/** What is told of a join now and then: its hollow, its gap, where it is and was measured, what pulls on it and is beside it. */
export function JoinDetail({ join, document, change }: OfJoin & { document: PieceDocument }) {
  return (
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
  );
}

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
