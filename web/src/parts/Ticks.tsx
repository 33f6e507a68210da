import { boxed, Field, Tick } from "./Field";
import { Menu } from "./Select";

export type TicksProps = {
  label: string;
  options: readonly (readonly [string, string])[];
  chosen: string[];
  onChange: (chosen: string[]) => void;
};

const FEW = 4;

/** Several of a few, ticked; of many, those that are chosen, and one list to choose further ones from. */
export function Ticks({ label, options, chosen, onChange }: TicksProps) {
  if (options.length === 0) return null;
  const without = (key: string) => chosen.filter((one) => one !== key);
  const told = options.filter(([key]) => chosen.includes(key));
  const left = options.filter(([key]) => !chosen.includes(key));
  return (
    <Field label={label} wide>
      {(id) => (
        <fieldset id={id} aria-label={label} className="flex flex-wrap items-center gap-x-5 gap-y-1">
          {options.length <= FEW
            ? options.map(([key, words]) => (
                <Tick
                  key={key}
                  label={words}
                  ticked={chosen.includes(key)}
                  onTick={(ticked) => onChange(ticked ? [...chosen, key] : without(key))}
                />
              ))
            : told.map(([key, words]) => (
                <button
                  key={key}
                  type="button"
                  aria-label={`${words}: take out`}
                  className="min-h-9 rounded border border-hair px-2.5 text-[15px] hover:border-quiet"
                  onClick={() => onChange(without(key))}
                >
                  {words} <span aria-hidden>×</span>
                </button>
              ))}
          {options.length > FEW && left.length > 0 && (
            <Menu
              label={told.length > 0 ? "and …" : "choose …"}
              options={left}
              onChoose={(key) => onChange([...chosen, key])}
              className={`${boxed} !w-28`}
            />
          )}
        </fieldset>
      )}
    </Field>
  );
}
