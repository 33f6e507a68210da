import { Checkbox } from "radix-ui";
import { type ReactNode, useEffect, useId, useState } from "react";
import { type Options, Select } from "./Select";

export type FieldProps = { label: string; children: (id: string) => ReactNode; wide?: boolean };

/** A labelled field. */
export function Field({ label, children, wide }: FieldProps) {
  const id = useId();
  return (
    <div className={wide ? "col-span-2" : ""}>
      <label htmlFor={id} className="block text-[13px] text-quiet">
        {label}
      </label>
      {children(id)}
    </div>
  );
}

/** Around fields that are used at the torch: as high as wet fingers want them, and read at arm's length. */
export const atArmsLength = "[&_input]:min-h-14 [&_input]:px-4 [&_input]:text-[18px] [&_label]:text-[15px]";

export const boxed =
  "min-h-9 w-full rounded border border-hair bg-raised px-2 text-[15px] text-ink hover:border-quiet";

export type TextFieldProps = {
  label: string;
  value: string;
  onCommit: (value: string) => void;
  wide?: boolean;
  placeholder?: string;
};

/** A line of text, kept as typed until it is left or Enter is pressed. */
export function TextField({ label, value, onCommit, wide, placeholder }: TextFieldProps) {
  const [typed, setTyped] = useState(value);
  useEffect(() => setTyped(value), [value]);
  const commit = () => typed !== value && onCommit(typed);
  return (
    <Field label={label} wide={wide}>
      {(id) => (
        <input
          id={id}
          className={boxed}
          value={typed}
          placeholder={placeholder}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={commit}
          onKeyDown={(event) => {
            if (event.key === "Enter") commit();
            if (event.key === "Escape") setTyped(value);
          }}
        />
      )}
    </Field>
  );
}

export type NumberFieldProps = {
  label: string;
  value: number;
  onCommit: (value: number) => void;
  unit?: string;
  whole?: boolean;
  /** Nought is nothing: the field stands empty, and is emptied to say so. */
  blank?: boolean;
};

/** A plain number (a count, an angle), kept as typed until it is left. */
export function NumberField({ label, value, onCommit, unit, whole, blank = false }: NumberFieldProps) {
  const standing = blank && value === 0 ? "" : String(value);
  const [typed, setTyped] = useState(standing);
  useEffect(() => setTyped(standing), [standing]);
  const number = Number(typed.replace(",", "."));
  const sound =
    (blank || typed.trim() !== "") && Number.isFinite(number) && (!whole || Number.isInteger(number));
  const commit = () => sound && number !== value && onCommit(number);
  return (
    <Field label={unit ? `${label}, ${unit}` : label}>
      {(id) => (
        <>
          <input
            id={id}
            inputMode="decimal"
            className={`${boxed} figures`}
            value={typed}
            aria-invalid={!sound}
            onFocus={(event) => event.target.select()}
            onChange={(event) => setTyped(event.target.value)}
            onBlur={commit}
            onKeyDown={(event) => {
              if (event.key === "Enter") commit();
              if (event.key === "Escape") setTyped(standing);
            }}
          />
          {!sound && <p className="text-[13px] text-alarm">Write a {whole ? "whole " : ""}number.</p>}
        </>
      )}
    </Field>
  );
}

export type ChoiceProps<V extends string> = {
  label: string;
  value: V;
  options: Options<V>;
  onChoose: (value: V) => void;
  wide?: boolean;
};

/** One of a few, under its label. */
export function Choice<V extends string>({ label, wide, ...pick }: ChoiceProps<V>) {
  return (
    <Field label={label} wide={wide}>
      {(id) => <Select id={id} className={boxed} {...pick} />}
    </Field>
  );
}

export type TickProps = { label: string; ticked: boolean; onTick: (ticked: boolean) => void };

/** Yes or no. */
export function Tick({ label, ticked, onTick }: TickProps) {
  const id = useId();
  return (
    <div className="flex min-h-9 items-center gap-2 text-[15px]">
      <Checkbox.Root
        id={id}
        checked={ticked}
        onCheckedChange={(now) => onTick(now === true)}
        className="flex size-[18px] shrink-0 items-center justify-center rounded border border-quiet bg-raised data-[state=checked]:border-accent data-[state=checked]:bg-accent"
      >
        <Checkbox.Indicator>
          <svg width="12" height="10" aria-hidden>
            <path d="M1 5L4.5 8.5L11 1" fill="none" stroke="var(--on-accent)" strokeWidth="2" />
          </svg>
        </Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id} className="cursor-pointer">
        {label}
      </label>
    </div>
  );
}

/** What is seldom asked, folded away until it is wanted. */
export function Fold({ title, children }: { title: string; children: ReactNode }) {
  return (
    <details className="col-span-2">
      <summary className="min-h-9 cursor-pointer py-1.5 text-[15px] text-quiet hover:text-ink">
        {title}
      </summary>
      <div className="grid grid-cols-2 gap-x-4 gap-y-2 pb-2">{children}</div>
    </details>
  );
}
