import { useLoggedMinutes, useTables } from "../api/queries";
import type { BenchView, HouseOverrides } from "../api/types";
import { Button } from "../parts/Button";
import { Choice, NumberField } from "../parts/Field";
import { counted } from "../parts/words";

export type SchoolChoicesProps = {
  house: BenchView["house"];
  own: HouseOverrides;
  /** What a rule that is not set here is said to follow. */
  follows: string;
  onChange: (what: HouseOverrides) => void;
};

const DEGREES = [
  ["overshoot_c", "Overshoot", "How far over its flow point solder is taken, so that it runs all along"],
  ["margin_c", "Margin", "How far under the point where an earlier join runs again a heat stays"],
  ["remelt_allowance_c", "Remelt allowance", "A join that has run once runs again a little higher"],
  [
    "thin_margin_c",
    "Thin margin",
    "A heat so near to melting is kept from what is under 0.5 mm where another way is as good",
  ],
] as const;
const COUNTS = [
  [
    "picks_per_heat",
    "Places picked in a heat",
    "",
    "So many are set one after another under one flame before it is time to look",
  ],
  [
    "local_reach_mm",
    "Reach of a local heat",
    "mm",
    "A join farther along the metal stays firm while one is picked",
  ],
] as const;

/** The house rules to choose from, each with the one line of why smiths hold what is chosen. */
export function SchoolChoices({ house, own, follows, onChange }: SchoolChoicesProps) {
  const tables = useTables();
  const set = (key: string, value: string | number | null) => onChange({ [key]: value } as HouseOverrides);
  // These are differences: no 32 is added.
  const fahrenheit = house.temperature === "f";
  const isOwn = (key: string) => own[key as keyof HouseOverrides] != null;
  return (
    <div className="space-y-2.5">
      {(tables.data?.schools ?? []).map((school) => {
        const standing = String(house[school.key as keyof typeof house]);
        const chosen = school.options.find((option) => option.value === standing);
        const unset = [["", `${follows}: ${chosen?.words ?? standing}`] as const];
        return (
          <div key={school.key}>
            <Choice
              label={school.title}
              value={isOwn(school.key) ? standing : ""}
              options={[
                ...(isOwn(school.key) ? [["", follows] as const] : unset),
                ...school.options.map((option) => [option.value, option.words] as const),
              ]}
              onChoose={(value) => set(school.key, value || null)}
            />
            <p className="mt-0.5 text-[13px] leading-snug text-quiet">{chosen?.why}.</p>
          </div>
        );
      })}
      {DEGREES.map(([key, words, why]) => (
        <div key={key}>
          <NumberField
            label={words}
            unit={fahrenheit ? "°F" : "°C"}
            value={Number((house[key] * (fahrenheit ? 1.8 : 1)).toFixed(1))}
            onCommit={(degrees) => set(key, Number((degrees / (fahrenheit ? 1.8 : 1)).toFixed(2)))}
          />
          <p className="mt-0.5 text-[13px] leading-snug text-quiet">{why}.</p>
        </div>
      ))}
      {COUNTS.map(([key, words, unit, why]) => (
        <div key={key}>
          <NumberField label={words} unit={unit} value={house[key]} onCommit={(value) => set(key, value)} />
          <p className="mt-0.5 text-[13px] leading-snug text-quiet">{why}.</p>
        </div>
      ))}
      <MinutesFold house={house} own={own} onChange={onChange} />
    </div>
  );
}

type LogSaysProps = {
  logged: { each: number; times: number } | undefined;
  now: number;
  onTake: (each: number) => void;
};

/** What the log knows better, to be taken over; nothing where it agrees. */
function LogSays({ logged, now, onTake }: LogSaysProps) {
  if (!logged || logged.each === now) return null;
  return (
    <p className="mt-0.5 flex items-center gap-3 text-[13px]">
      {`The log says ${String(logged.each)} min, by ${counted(logged.times, "time")}.`}
      <Button className="!min-h-8 !px-2.5" onClick={() => onTake(logged.each)}>
        Take it
      </Button>
    </p>
  );
}

/** The minutes of each kind of work, which a house may know better. */
function MinutesFold({ house, own, onChange }: Pick<SchoolChoicesProps, "house" | "own" | "onChange">) {
  const tables = useTables();
  const logged = new Map((useLoggedMinutes().data ?? []).map((one) => [one.kind, one]));
  return (
    <details>
      <summary className="min-h-9 cursor-pointer py-1.5 text-[15px] font-semibold">
        Minutes for each part, by kind of work
      </summary>
      {(tables.data?.paces ?? [])
        .filter((pace) => pace.each > 0)
        .map((pace) => (
          <div key={pace.kind} className="mt-1.5">
            <NumberField
              label={pace.kind[0]?.toUpperCase() + pace.kind.slice(1)}
              unit="min"
              value={house.minutes[pace.kind] ?? pace.each}
              onCommit={(minutes) => onChange({ minutes: { ...own.minutes, [pace.kind]: minutes } })}
            />
            <p className="mt-0.5 text-[13px] leading-snug text-quiet">
              {pace.once > 0 && `${String(pace.once)} min once besides; `}
              {pace.why}.
            </p>
            <LogSays
              logged={logged.get(pace.kind)}
              now={house.minutes[pace.kind] ?? pace.each}
              onTake={(each) => onChange({ minutes: { ...own.minutes, [pace.kind]: each } })}
            />
          </div>
        ))}
    </details>
  );
}
