/** A look at the work: it passes, or how it does not. */
import type { OutcomeWord } from "../api/types";
import { Key } from "../parts/Key";
import { ActionKey } from "../shell/ActionKey";
import { SideKeys, type SideKeysProps } from "./StepKeys";
import type { Look } from "./words";

type LookKeysProps = SideKeysProps & {
  look: Look;
  words: OutcomeWord[];
  onPass: () => void;
  onPassAll: () => void;
  onFail: (word?: OutcomeWord) => void;
};

const KEY =
  "flex min-h-[72px] min-w-32 flex-1 items-center gap-3 rounded-lg border border-hair px-3 text-left text-[18px] leading-tight hover:border-quiet";

export function LookKeys({ look, words, onPass, onPassAll, onFail, ...beside }: LookKeysProps) {
  const ways = look.join ? words.slice(1) : [undefined];
  return (
    <fieldset aria-label={`Does ${look.title} pass?`}>
      <p className="mb-2 text-[18px] text-quiet">{look.join ? "It is otherwise:" : "It does not pass:"}</p>
      <div className="mb-3 flex flex-wrap gap-2.5">
        {ways.map((word) => (
          <button key={word?.outcome ?? ""} type="button" onClick={() => onFail(word)} className={KEY}>
            <Key>{word?.key ?? "2"}</Key>
            {word?.words ?? "Does not pass"}
          </button>
        ))}
      </div>
      <div className="flex flex-wrap items-stretch gap-2.5">
        <button
          type="button"
          onClick={onPass}
          className="flex min-h-[72px] min-w-0 flex-1 items-center max-sm:basis-full gap-4 rounded-lg border border-accent bg-accent-soft px-5 text-left"
        >
          <ActionKey of="run.next" />
          <span className="shrink-0 text-[22px] font-semibold">It passes</span>
          <span className="min-w-0 truncate text-[17px] text-quiet">{look.check.passes}</span>
        </button>
        {look.left.length > 1 && (
          <button
            type="button"
            onClick={onPassAll}
            className="min-h-[72px] rounded-lg border border-hair px-5 text-[18px] hover:border-quiet"
          >
            <Key>a</Key> All {look.left.length} pass
          </button>
        )}
        <SideKeys {...beside} />
      </div>
    </fieldset>
  );
}
