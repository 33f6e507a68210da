/** One of a few: the one list to choose from that every place uses, typed by what it offers. */
import { getNonce } from "get-nonce";
import { DropdownMenu, Select as List } from "radix-ui";
import { useState } from "react";

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

// A list has no empty value: this stands for it there.
const NONE = " none";
const asKey = (value: string) => (value === "" ? NONE : value);

const POPPED =
  "z-50 max-h-[min(26rem,var(--radix-popper-available-height))] overflow-y-auto rounded-md border border-quiet bg-raised py-1 text-ink shadow-lg";
const OFFERED =
  "flex min-h-9 cursor-pointer items-center px-3 text-[15px] outline-none select-none data-highlighted:bg-sunk";

export function Select<V extends string>({
  value,
  options,
  onChoose,
  label,
  id,
  className = "",
}: SelectProps<V>) {
  // A list that is closed draws nothing of what it offers: a page has dozens of them.
  const [open, setOpen] = useState(false);
  const words = options.find(([key]) => key === value)?.[1] ?? value;
  const choose = (key: string) => {
    const chosen = options.find(([one]) => asKey(one) === key);
    if (chosen) onChoose(chosen[0]);
  };
  return (
    <List.Root value={asKey(value)} onValueChange={choose} open={open} onOpenChange={setOpen}>
      <List.Trigger
        id={id}
        aria-label={label}
        data-value={value}
        className={`flex cursor-pointer items-center justify-between gap-2 text-left ${className}`}
      >
        <span className="min-w-0 truncate">
          <List.Value>{words}</List.Value>
        </span>
        <Down />
      </List.Trigger>
      {open && (
        <List.Portal>
          <List.Content
            position="popper"
            sideOffset={3}
            className={`${POPPED} min-w-(--radix-select-trigger-width)`}
          >
            <List.Viewport nonce={getNonce()}>
              {options.map(([key, said]) => (
                <List.Item
                  key={key}
                  value={asKey(key)}
                  data-value={key}
                  className={`${OFFERED} data-[state=checked]:font-semibold`}
                >
                  <List.ItemText>{said}</List.ItemText>
                </List.Item>
              ))}
            </List.Viewport>
          </List.Content>
        </List.Portal>
      )}
    </List.Root>
  );
}

export type MenuProps<V extends string> = {
  label: string;
  options: Options<V>;
  onChoose: (value: V) => void;
  className?: string;
};

/** Things that can be done, one of which is: unlike a list it keeps no value. */
export function Menu<V extends string>({ label, options, onChoose, className = "" }: MenuProps<V>) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className={`flex cursor-pointer items-center justify-between gap-2 text-left ${className}`}
      >
        {label}
        <Down />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={3} className={`${POPPED} min-w-40`}>
          {options.map(([key, words]) => (
            <DropdownMenu.Item key={key} data-value={key} className={OFFERED} onSelect={() => onChoose(key)}>
              {words}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Down() {
  return (
    <svg width="10" height="6" aria-hidden className="shrink-0">
      <path d="M1 1L5 5L9 1" fill="none" stroke="currentColor" strokeWidth="1.5" />
    </svg>
  );
}
