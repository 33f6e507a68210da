import { useId } from "react";
import { useTables } from "../api/queries";
import type { Bench } from "../api/types";
import { type Options, Select } from "../parts/Select";

export type AtHandProps = { bench: Bench; onKeep: (what: Partial<Bench>) => void };

/** What a heat is made with unless a piece names its own: torch and tip, surface, flux, and what is in the pot. */
export function AtHand({ bench, onKeep }: AtHandProps) {
  const tables = useTables().data;
  if (!tables) return null;
  return (
    <div className="mt-2 flex flex-wrap items-end gap-4">
      <Labelled
        label="Torch and tip"
        value={bench.torch}
        rows={tables.torches.map((one) => [one.id, `${one.name}, ${one.tip}`])}
        onChoose={(torch) => onKeep({ torch })}
      />
      <Labelled
        label="Surface"
        value={bench.surface}
        rows={tables.surfaces.map((one) => [one.id, one.name])}
        onChoose={(surface) => onKeep({ surface })}
      />
      <Labelled
        label="Flux"
        value={bench.flux}
        rows={tables.fluxes.map((one) => [one.id, one.name])}
        onChoose={(flux) => onKeep({ flux })}
      />
      <Labelled
        label="In the pot"
        value={bench.pickle}
        rows={tables.pickles.map((one) => [one.id, one.name])}
        onChoose={(pickle) => onKeep({ pickle })}
      />
    </div>
  );
}

type LabelledProps = {
  label: string;
  value: string | null | undefined;
  rows: Options<string>;
  onChoose: (id: string) => void;
};

function Labelled({ label, value, rows, onChoose }: LabelledProps) {
  const id = useId();
  return (
    <label htmlFor={id} className="text-[14px] text-quiet">
      {label}
      <Select
        id={id}
        className="mt-0.5 block min-h-10 max-w-64 rounded-md border border-hair bg-raised px-2 text-[16px] text-ink"
        value={value ?? ""}
        options={rows}
        onChoose={onChoose}
      />
    </label>
  );
}
