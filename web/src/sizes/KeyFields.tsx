/** The keys of a calculator as fields: what was typed stays, with what it was understood as, or what is wrong, below. */

import { usePieces, useTables } from "../api/queries";
import type { Fault, KeyInfo } from "../api/types";
import { Button } from "../parts/Button";
import { boxed, Choice, Field, Tick } from "../parts/Field";
import { keyed } from "../parts/keyed";
import type { Units } from "../parts/units";
import { beginKeys, type Step, sayPath, type Typed, type TypedGroup } from "./typed";

export type Asking = {
  /** What a bare number is typed in. */
  units: Units;
  typed: TypedGroup;
  understood: Record<string, string>;
  faults: Fault[];
  onType: (path: Step[], value: Typed) => void;
};

export type KeyFieldsProps = { keys: KeyInfo[]; at: Step[]; values: TypedGroup; asking: Asking };

/** A field for each key. */
export function KeyFields({ keys, at, values, asking }: KeyFieldsProps) {
  return keys.map((info) => (
    <KeyField key={info.key} info={info} path={[...at, info.key]} value={values[info.key]} asking={asking} />
  ));
}

type KeyFieldProps = { info: KeyInfo; path: Step[]; value: Typed | undefined; asking: Asking };

function KeyField({ info, path, value, asking }: KeyFieldProps) {
  switch (info.kind) {
    case "yes-no":
      return (
        <Tick label={info.label} ticked={value === true} onTick={(ticked) => asking.onType(path, ticked)} />
      );
    case "choice":
      return <ChoiceKey info={info} path={path} value={value} asking={asking} />;
    case "group":
      return (
        <Grouped label={info.label}>
          <KeyFields keys={info.keys} at={path} values={(value ?? {}) as TypedGroup} asking={asking} />
        </Grouped>
      );
    case "variants":
      return <VariantKey info={info} path={path} value={value} asking={asking} />;
    case "list":
      return <ListKey info={info} path={path} value={value} asking={asking} />;
    case "document":
      return <PieceKey info={info} path={path} value={value} asking={asking} />;
    default:
      return <TextKey info={info} path={path} value={value} asking={asking} />;
  }
}

function Grouped({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <fieldset className="col-span-2 border-l-2 border-hair pl-3">
      <legend className="text-[14px] font-semibold">{label}</legend>
      <div className="grid grid-cols-2 gap-x-4 gap-y-2">{children}</div>
    </fieldset>
  );
}

function ChoiceKey({ info, path, value, asking }: KeyFieldProps) {
  const options = info.choices.map((choice) => [choice, choice.replace(/-/g, " ")] as const);
  const none = info.default == null && !info.required ? [["", "by the house"] as const] : [];
  return (
    <Choice
      label={info.label}
      value={String(value ?? "")}
      options={[...none, ...options]}
      onChoose={(chosen) => asking.onType(path, chosen)}
    />
  );
}

function VariantKey({ info, path, value, asking }: KeyFieldProps) {
  const group = (value ?? { kind: "" }) as TypedGroup;
  const chosen = info.variants.find((one) => one.kind === group.kind);
  const options = info.variants.map((one) => [one.kind, one.kind.replace(/-/g, " ")] as const);
  const choose = (kind: string) => {
    const variant = info.variants.find((one) => one.kind === kind);
    asking.onType(path, variant ? { kind, ...beginKeys(variant.keys, group, asking.units) } : { kind: "" });
  };
  return (
    <Grouped label={info.label}>
      <Choice
        label="Kind"
        value={String(group.kind ?? "")}
        options={info.required ? options : [["", "none"], ...options]}
        onChoose={choose}
      />
      {chosen && <KeyFields keys={chosen.keys} at={path} values={group} asking={asking} />}
    </Grouped>
  );
}

function ListKey({ info, path, value, asking }: KeyFieldProps) {
  const rows = (Array.isArray(value) ? value : []) as TypedGroup[];
  const one = info.label.replace(/(?<=ss)es$|s$/, "").toLowerCase();
  return (
    <fieldset className="col-span-2">
      <legend className="text-[14px] font-semibold">{info.label}</legend>
      {keyed(rows).map(({ key, one: row, at: n }) => (
        <div key={key} className="mb-2 grid grid-cols-2 gap-x-4 gap-y-1 border-l-2 border-hair pl-3">
          <KeyFields keys={info.keys} at={[...path, n]} values={row} asking={asking} />
          <Button
            look="bare"
            className="col-span-2 justify-self-start px-1"
            onClick={() =>
              asking.onType(
                path,
                rows.filter((_, each) => each !== n),
              )
            }
          >
            Take out {one} {n + 1}
          </Button>
        </div>
      ))}
      <Button
        onClick={() => asking.onType(path, [...rows, beginKeys(info.keys, rows.at(-1) ?? {}, asking.units)])}
      >
        Add {/^[aeiou]/.test(one) ? "an" : "a"} {one}
      </Button>
    </fieldset>
  );
}

function TextKey({ info, path, value, asking }: KeyFieldProps) {
  const where = sayPath(path);
  const fault = asking.faults.find((one) => one.path === where || one.path.startsWith(`${where}[`));
  const told = asking.understood[where];
  const text = String(value ?? "");
  if (["metal", "solder", "pickle"].includes(info.quantity))
    return <TableKey info={info} path={path} value={value} asking={asking} />;
  return (
    <Field label={info.label}>
      {(id) => (
        <>
          <input
            id={id}
            className={`${boxed} figures text-[17px]`}
            value={text}
            placeholder={info.required ? HINT[info.quantity] : "left out"}
            aria-invalid={fault !== undefined}
            aria-describedby={fault || told ? `${id}-told` : undefined}
            onFocus={(event) => event.target.select()}
            onChange={(event) => asking.onType(path, event.target.value)}
          />
          {fault ? (
            <p id={`${id}-told`} className="text-[13px] text-alarm">
              {fault.rule}. {fault.remedy}
            </p>
          ) : (
            told && (
              <p id={`${id}-told`} className="text-[13px] text-quiet">
                {told}
              </p>
            )
          )}
        </>
      )}
    </Field>
  );
}

const HINT: Record<string, string> = {
  length: "1.2, 18 ga, 7/16 in",
  mass: "12.5, 2 dwt",
  temperature: "60, 140F",
  "ring-size": "US 6 1/2, UK N½, 54",
  lengths: "1.0, 1.2",
  points: "0 0, 30 0, 30 40",
};

function TableKey({ info, path, value, asking }: KeyFieldProps) {
  const tables = useTables();
  const rows = { metal: tables.data?.metals, solder: tables.data?.solders, pickle: tables.data?.pickles };
  const list = rows[info.quantity as keyof typeof rows] ?? [];
  const say = (one: (typeof list)[number]) =>
    "family" in one && "grade" in one && one.family !== "copper"
      ? `${one.family.toUpperCase()} ${one.name}`
      : one.name;
  return (
    <Choice
      label={info.label}
      value={String(value ?? "")}
      options={list.map((one) => [one.id, say(one)] as const)}
      onChoose={(chosen) => asking.onType(path, chosen)}
      wide
    />
  );
}

function PieceKey({ info, path, value, asking }: KeyFieldProps) {
  const pieces = usePieces();
  const list = (pieces.data ?? []).map((one) => [String(one.id), one.name] as const);
  return (
    <Choice
      label={info.label}
      value={String(value ?? "")}
      options={[["", "none"], ...list]}
      onChoose={(chosen) => asking.onType(path, chosen)}
      wide
    />
  );
}
