import { useLoggedMinutes, useTables } from "../api/queries";
import type { BenchView, HouseChoice, HouseOverrides } from "../api/types";
import { Button } from "../parts/Button";
import { Choice, NumberField } from "../parts/Field";
import { counted } from "../parts/words";

type House = BenchView["house"];
type Shown = HouseChoice["shown"];

export type HouseChoicesProps = {
  house: House;
  own: HouseOverrides;
  /** What a rule that is not set here is said to follow. */
  follows: string;
  onChange: (what: HouseOverrides) => void;
};

/** The house rules to choose from, each with the one line of why smiths hold what is chosen; then its numbers. */
export function HouseChoices(props: HouseChoicesProps) {
  return (
    <div className="space-y-2.5">
      <ChoicesOf {...props} shown="rules" />
      <ChoicesOf {...props} shown="numbers" />
      <MinutesFold {...props} />
    </div>
  );
}

/** The choices that are shown in one place: the rows of the house, in their order. */
export function ChoicesOf({ shown, ...props }: HouseChoicesProps & { shown: Shown }) {
  const tables = useTables();
  return (tables.data?.choices ?? [])
    .filter((choice) => choice.shown === shown)
    .map((choice) =>
      choice.kind === "number" ? (
        <NumberOf key={choice.key} choice={choice} {...props} />
      ) : (
        <OptionOf key={choice.key} choice={choice} {...props} />
      ),
    );
}

type OneProps = HouseChoicesProps & { choice: HouseChoice };

function OptionOf({ choice, house, own, follows, onChange }: OneProps) {
  const standing = standingOf(house, choice.key);
  const chosen = choice.options.find((option) => option.value === String(standing));
  const isOwn = standingOf(own, choice.key) != null;
  // Of units the house simply has some: there is nothing that they follow.
  const plain = choice.shown === "units";
  const unset = ["", isOwn ? follows : `${follows}: ${chosen?.words ?? String(standing)}`] as const;
  const numbered = choice.kind === "option-or-number";
  const options = [
    ...(plain || numbered ? [] : [unset]),
    ...choice.options.map((option) => [option.value, option.words] as const),
    ...(numbered ? [[NUMBER, "asked"] as const] : []),
  ];
  const number = typeof standing === "number" ? standing : null;
  const value = numbered && number !== null ? NUMBER : plain || numbered || isOwn ? String(standing) : "";
  return (
    <div>
      <Choice
        label={choice.title}
        value={value}
        options={options}
        onChoose={(value) =>
          onChange(changeOf(house, choice.key, value === NUMBER ? FINENESS_USUAL : value || null))
        }
      />
      {numbered && number !== null && (
        <NumberField
          label={choice.title}
          unit={UNITS[choice.unit]}
          whole
          value={number}
          onCommit={(value) => onChange(changeOf(house, choice.key, value))}
        />
      )}
      <Why words={choice.why || chosen?.why} />
    </div>
  );
}

/** What is chosen where a number is wanted in place of an option, and which stands there first. */
const NUMBER = "number";
const FINENESS_USUAL = 925;
const UNITS: Record<HouseChoice["unit"], string> = { "": "", difference: "", mm: "mm", "per-mille": "‰" };

function NumberOf({ choice, house, onChange }: OneProps) {
  // These are differences: no 32 is added.
  const fahrenheit = choice.unit === "difference" && house.temperature === "f";
  const degrees = fahrenheit ? "°F" : "°C";
  const times = fahrenheit ? 1.8 : 1;
  const standing = Number(standingOf(house, choice.key));
  const within = choice.key.includes(".") ? "Thinnest " : "";
  return (
    <div>
      <NumberField
        label={within ? within + choice.title.toLowerCase() : choice.title}
        unit={choice.unit === "difference" ? degrees : UNITS[choice.unit]}
        value={Number((standing * times).toFixed(2))}
        onCommit={(value) =>
          onChange(changeOf(house, choice.key, times === 1 ? value : Number((value / times).toFixed(2))))
        }
      />
      <Why words={choice.why} />
    </div>
  );
}

function Why({ words }: { words: string | undefined }) {
  return words ? <p className="mt-0.5 text-[13px] leading-snug text-quiet">{words}.</p> : null;
}

/** What stands of a choice; the key of one within another has a dot. */
function standingOf(house: object, key: string): unknown {
  return key
    .split(".")
    .reduce<unknown>((within, name) => (within as Record<string, unknown> | null | undefined)?.[name], house);
}

/** The overrides by which a choice is another; of one within another the rest is as it stands. */
function changeOf(house: House, key: string, value: string | number | null): HouseOverrides {
  const [name = "", inner] = key.split(".");
  const whole = house[name as keyof House];
  return { [name]: inner ? { ...(whole as object), [inner]: value } : value } as HouseOverrides;
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
function MinutesFold({ house, own, onChange }: Pick<HouseChoicesProps, "house" | "own" | "onChange">) {
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
