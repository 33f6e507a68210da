/** One of a few: the one list to choose from that every place uses, typed by what it offers. */

/** What can be chosen, each with its words. */
export type Options<V extends string> = readonly (readonly [value: V, words: string])[];

/** Options from a table that the compiler holds complete: a value without its words does not compile. */
export const optionsOf = <V extends string>(words: Readonly<Record<V, string>>): Options<V> =>
  Object.entries(words) as [V, string][];

export type SelectProps<V extends string> = {
  value: V;
  options: Options<V>;
  onChoose: (value: V) => void;
  /** Told to who cannot see it, where no label stands beside it. */
  label?: string;
  id?: string;
  className?: string;
};

export function Select<V extends string>({ value, options, onChoose, label, id, className }: SelectProps<V>) {
  return (
    <select
      id={id}
      aria-label={label}
      className={className}
      value={value}
      onChange={(event) => {
        const chosen = options.find(([key]) => key === event.target.value);
        if (chosen) onChoose(chosen[0]);
      }}
    >
      {options.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  );
}
