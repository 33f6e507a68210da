import { useTables } from "../api/queries";
import type { Bench } from "../api/types";

export type AtHandProps = { bench: Bench; onKeep: (what: Partial<Bench>) => void };

/** What a heat is made with unless a piece names its own: torch and tip, surface, flux, and what is in the pot. */
export function AtHand({ bench, onKeep }: AtHandProps) {
  const tables = useTables().data;
  if (!tables) return null;
  return (
    <div className="mt-2 flex flex-wrap items-end gap-4">
      <Choice
        label="Torch and tip"
        value={bench.torch}
        rows={tables.torches.map((one) => [one.id, `${one.name}, ${one.tip}`])}
        onChoose={(torch) => onKeep({ torch })}
      />
      <Choice
        label="Surface"
        value={bench.surface}
        rows={tables.surfaces.map((one) => [one.id, one.name])}
        onChoose={(surface) => onKeep({ surface })}
      />
      <Choice
        label="Flux"
        value={bench.flux}
        rows={tables.fluxes.map((one) => [one.id, one.name])}
        onChoose={(flux) => onKeep({ flux })}
      />
      <Choice
        label="In the pot"
        value={bench.pickle}
        rows={tables.pickles.map((one) => [one.id, one.name])}
        onChoose={(pickle) => onKeep({ pickle })}
      />
    </div>
  );
}

type ChoiceProps = {
  label: string;
  value: string | null | undefined;
  rows: [id: string, name: string][];
  onChoose: (id: string) => void;
};

function Choice({ label, value, rows, onChoose }: ChoiceProps) {
  return (
    <label className="text-[14px] text-quiet">
      {label}
      <select
        className="mt-0.5 block min-h-10 max-w-64 rounded-md border border-hair bg-raised px-2 text-[16px] text-ink"
        value={value ?? ""}
        onChange={(event) => onChoose(event.target.value)}
      >
        {rows.map(([id, name]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
