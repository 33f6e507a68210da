import { useLogChoices } from "../api/queries";
import type { AskedOfLog } from "../api/types";
import { Button } from "../parts/Button";
import { boxed } from "../parts/Field";
import { Select } from "../parts/Select";
import { FILTERS, type Filter, isFiltered, LABELS, SINCE, type Since, useNames } from "./asking";

export type Asking = {
  words: string;
  filters: Partial<Record<Filter, string>>;
  since: Since;
};
export const NOTHING: Asking = { words: "", filters: {}, since: "" };

type AskBarProps = { asking: Asking; asked: AskedOfLog; onAsk: (asking: Asking) => void };

/** What the log is asked: in words, and by what a join was of. */
export function AskBar({ asking, asked, onAsk }: AskBarProps) {
  const choices = useLogChoices().data;
  const names = useNames();
  const choose = (filter: Filter, value: string) =>
    onAsk({ ...asking, filters: { ...asking.filters, [filter]: value } });
  return (
    <search className="block">
      <input
        type="search"
        aria-label="Find in the log"
        className={`${boxed} !min-h-12 !text-[18px]`}
        placeholder="What went well with medium on thin wire?"
        value={asking.words}
        onChange={(event) => onAsk({ ...asking, words: event.target.value })}
      />
      <div className="mt-2 flex flex-wrap items-end gap-2">
        {FILTERS.map((filter) => {
          const some = (choices?.[filter] ?? []).map((value) => [value, names(filter, value)] as const);
          const both = filter === "outcome" ? (["well", "wrong"] as const) : [];
          const offered = [["", "any"], ...both.map((one) => [one, names(filter, one)]), ...some];
          if (offered.length < 3 && !asking.filters[filter]) return null;
          return (
            <Chosen
              key={filter}
              label={LABELS[filter]}
              value={asking.filters[filter] ?? ""}
              options={offered as [string, string][]}
              onChoose={(value) => choose(filter, value)}
            />
          );
        })}
        <Chosen
          label="Since"
          value={asking.since}
          options={SINCE}
          onChoose={(since) => onAsk({ ...asking, since })}
        />
        {(isFiltered(asked) || asking.words) && (
          <Button look="bare" className="!min-h-10" onClick={() => onAsk(NOTHING)}>
            Ask for everything
          </Button>
        )}
      </div>
    </search>
  );
}

type ChosenProps<V extends string> = {
  label: string;
  value: V;
  options: readonly (readonly [V, string])[];
  onChoose: (value: V) => void;
};

function Chosen<V extends string>({ label, value, options, onChoose }: ChosenProps<V>) {
  return (
    <div className="max-w-52">
      <span className="block text-[13px] text-quiet" aria-hidden>
        {label}
      </span>
      <Select
        label={label}
        value={value}
        options={options}
        onChoose={onChoose}
        className={`${boxed} !min-h-10 ${value ? "!border-accent font-semibold" : ""}`}
      />
    </div>
  );
}
