/** The piece as it is now, for what is otherwise than the run has it to be told: joins that opened, parts that were clipped, solder that ran out. */
import type { ReactNode } from "react";
import { useTables } from "../api/queries";
import type { RestOtherwise, RestView } from "../api/types";
import { atArmsLength } from "../parts/Field";
import { LengthField } from "../parts/LengthField";
import { Select } from "../parts/Select";
import { useUnits } from "../parts/useUnits";

export type AsItIsProps = {
  rest: RestView;
  otherwise: RestOtherwise;
  onOtherwise: (otherwise: RestOtherwise) => void;
};

const without = (names: readonly string[] | undefined, name: string): string[] =>
  (names ?? []).filter((one) => one !== name);

const NAME = "min-w-40 flex-1 font-semibold";
/** On a phone a name beside two touches has a line of its own. */
const ALONE = "max-sm:basis-full";
const ROW =
  "flex min-h-14 flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair py-1 text-[18px] [&>button]:ml-auto [&>button]:self-end";

export function AsItIs({ rest, otherwise, onOtherwise }: AsItIsProps) {
  const tell = (more: Partial<RestOtherwise>) => onOtherwise({ ...otherwise, ...more });
  const gone = otherwise.ran_out ?? [];
  const named = new Map(useTables().data?.solders.map(({ id, name }) => [id, name]));
  return (
    <section aria-label="As it is now" className="min-w-0">
      <Group title="Joins">
        {rest.joins.map((join) => (
          <JoinRow key={join.id} join={join} rest={rest} otherwise={otherwise} tell={tell} />
        ))}
      </Group>
      <Group title="Parts">
        {rest.parts.map((part) => (
          <PartRow key={part.id} part={part} otherwise={otherwise} tell={tell} />
        ))}
      </Group>
      <Group title="Solder at hand: touch what ran out">
        <div className="flex flex-wrap gap-2.5 py-2">
          {rest.solders.map(({ id, name }) => (
            <Either key={id} on onPress={() => tell({ ran_out: [...gone, id] })} words={name} />
          ))}
          {gone.map((id) => (
            <Either
              key={id}
              on={false}
              onPress={() => tell({ ran_out: without(gone, id) })}
              words={`${named.get(id) ?? id} ran out`}
            />
          ))}
        </div>
      </Group>
    </section>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="mb-3">
      <h3 className="border-b border-hair text-[16px] text-quiet">{title}</h3>
      {children}
    </section>
  );
}

type RowProps = { otherwise: RestOtherwise; tell: (more: Partial<RestOtherwise>) => void };

/** A join: there, and with what, or open. */
function JoinRow({
  join,
  rest,
  otherwise,
  tell,
}: RowProps & { join: RestView["joins"][number]; rest: RestView }) {
  const soldered = join.heated && !join.fused;
  const { [join.id]: _, ...others } = otherwise.made ?? {};
  const makeWith = (solder: string | null) =>
    tell({ open: without(otherwise.open, join.id), made: { ...others, [join.id]: solder } });
  const press = () => {
    if (join.made) tell({ open: [...without(otherwise.open, join.id), join.id], made: others });
    else if (otherwise.open?.includes(join.id)) tell({ open: without(otherwise.open, join.id) });
    else makeWith(soldered ? (join.takes ?? rest.solders[0]?.id ?? null) : null);
  };
  const at_hand = rest.solders.map(({ id, name }) => [id, name] as const);
  const own = join.solder !== null && !at_hand.some(([id]) => id === join.solder);
  return (
    <div className={ROW}>
      <b className={`${NAME} ${join.made && soldered ? ALONE : ""}`}>{join.title}</b>
      {join.made && soldered && (
        <Select
          label={`Solder of ${join.title}`}
          value={join.solder ?? ""}
          options={own ? [[join.solder ?? "", join.solder ?? ""] as const, ...at_hand] : at_hand}
          onChoose={makeWith}
          className="min-h-14 min-w-40 flex-1 rounded-md sm:w-56 sm:flex-none border border-hair px-3 text-[16px]"
        />
      )}
      <Either on={join.made} onPress={press} words={join.made ? "it is there" : "open"} label={join.title} />
    </div>
  );
}

/** A part: as long as it is now, and whether it is cut anew. */
function PartRow({ part, otherwise, tell }: RowProps & { part: RestView["parts"][number] }) {
  const anew = otherwise.anew ?? [];
  const again = anew.includes(part.id);
  const units = useUnits();
  if (!part.made && !again && part.length_mm === null) return null;
  return (
    <div className={ROW}>
      <b className={`${NAME} ${part.made && part.length_mm !== null ? ALONE : ""}`}>{part.title}</b>
      {part.length_mm !== null && (
        <div className={`w-40 sm:ml-auto ${atArmsLength}`}>
          <LengthField
            label={`long now, ${units.units}`}
            mm={part.length_mm}
            onCommit={(mm) => tell({ lengths_mm: { ...otherwise.lengths_mm, [part.id]: mm } })}
          />
        </div>
      )}
      {(part.made || again) && (
        <Either
          on={again}
          onPress={() => tell({ anew: again ? without(anew, part.id) : [...anew, part.id] })}
          words={again ? "cut anew" : "cut it anew"}
          label={part.title}
        />
      )}
    </div>
  );
}

/** A wide touch that is on or off. */
function Either({
  on,
  words,
  label,
  onPress,
}: {
  on: boolean;
  words: string;
  label?: string;
  onPress: () => void;
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      aria-label={label ? `${label}: ${words}` : undefined}
      onClick={onPress}
      className={`min-h-14 min-w-32 rounded-md border px-4 text-[16px] ${on ? "border-accent bg-accent-soft font-semibold" : "border-hair hover:border-quiet"}`}
    >
      {words}
    </button>
  );
}
