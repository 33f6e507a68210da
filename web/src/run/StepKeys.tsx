/** What a step is left by: the outcomes of its joins, the way on, a note. */
import { useEffect, useRef, useState } from "react";
import { writeNote } from "../api/queries";
import type { OutcomeWord, RunView } from "../api/types";
import { Key } from "../parts/Key";
import { ActionKey } from "../shell/ActionKey";

export type OutcomesProps = {
  words: OutcomeWord[];
  title: string;
  many: boolean;
  onSay: (word: OutcomeWord) => void;
};

export function Outcomes({ words, title, many, onSay }: OutcomesProps) {
  return (
    <fieldset aria-label={`How did ${title} come out?`}>
      <p className="mb-2 text-[20px]">
        How did <b className="font-semibold">{title}</b> come out?
        {many && <span className="text-quiet"> One join after another.</span>}
      </p>
      <div className="flex gap-2.5">
        {words.map((word, n) => (
          <button
            key={word.outcome}
            type="button"
            onClick={() => onSay(word)}
            className={`flex min-h-[72px] flex-1 items-center gap-3 rounded-lg border px-3 text-left text-[18px] leading-tight ${n === 0 ? "flex-[1.5] border-accent bg-accent-soft font-semibold" : "border-hair hover:border-quiet"}`}
          >
            <Key>{word.key}</Key>
            {word.words}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

export type TriesProps = {
  ways: RunView["ways"];
  onTry: (way: RunView["ways"][number]["way"]) => void;
};

/** Where a join did not come out sound: what can be tried, what fits best first; going on takes it as it is. */
export function Tries({ ways, onTry }: TriesProps) {
  return (
    <fieldset aria-label="What can be tried" className="mb-3">
      <p className="mb-2 text-[18px] text-quiet">
        Not sound yet. Do it again, or go on and take it as it is.
      </p>
      <div className="flex gap-2.5">
        {ways.map(({ way, offered }, n) => (
          <button
            key={way}
            type="button"
            onClick={() => onTry(way)}
            className={`flex min-h-[72px] flex-1 items-center gap-3 rounded-lg border px-3 text-left text-[18px] leading-tight ${n === 0 ? "border-accent font-semibold" : "border-hair hover:border-quiet"}`}
          >
            <Key>{String(n + 2)}</Key>
            {offered}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

export type OnwardProps = {
  run: RunView;
  said: string[];
  /** Whether what is gone on from is not sound yet. */
  asItIs?: boolean;
  onNext: () => void;
  onBack: () => void;
  onNote: () => void;
  onSkip: () => void;
};

export function Onward({ run, said, asItIs = false, onNext, onBack, onNote, onSkip }: OnwardProps) {
  const { step } = run;
  const confirm = step.kind === "prepare" && step.confirm;
  const waits = step.kind === "cool" || step.kind === "pickle";
  const last = run.position === run.steps.length;
  return (
    <div className="flex items-stretch gap-2.5">
      <button
        type="button"
        onClick={onNext}
        className="flex min-h-[72px] min-w-0 flex-1 items-center gap-4 rounded-lg border border-accent bg-accent-soft px-5 text-left"
      >
        <ActionKey of="run.next" />
        <span className="shrink-0 text-[22px] font-semibold">
          {asItIs
            ? "Take it as it is"
            : confirm
              ? "I have read it"
              : last
                ? "Done"
                : waits
                  ? "It is out"
                  : "Next"}
        </span>
        <span className="min-w-0 truncate text-[17px] text-quiet">
          {said.length > 0 ? said.join(", ") : run.next_text}
        </span>
      </button>
      <SideKeys
        first={run.position === 1 && said.length === 0}
        onBack={onBack}
        onNote={onNote}
        onSkip={onSkip}
      />
    </div>
  );
}

export const SIDE_KEY = "min-h-[72px] rounded-lg border border-hair px-5 text-[18px] hover:border-quiet";

export type SideKeysProps = {
  /** Whether there is nothing to go back to. */
  first?: boolean;
  onBack: () => void;
  onNote: () => void;
  onSkip: () => void;
};

/** Beside the wide key of any step: back, a note, skip. */
export function SideKeys({ first = false, onBack, onNote, onSkip }: SideKeysProps) {
  return (
    <>
      <button type="button" className={SIDE_KEY} onClick={onBack} disabled={first}>
        <ActionKey of="run.back" /> Back
      </button>
      <button type="button" className={SIDE_KEY} onClick={onNote}>
        <ActionKey of="run.note" /> Note
      </button>
      <button type="button" className={SIDE_KEY} onClick={onSkip}>
        <ActionKey of="run.skip" /> Skip
      </button>
    </>
  );
}

export type NoteLineProps = {
  run: RunView;
  note: string;
  take: (step: () => Promise<RunView>) => void;
  onClose: () => void;
};

export function NoteLine({ run, note, take, onClose }: NoteLineProps) {
  const [text, setText] = useState(note);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus(), []);
  const keep = () => {
    if (text !== note) take(() => writeNote(run, run.position, text, note));
    onClose();
  };
  return (
    <div className="mt-3 flex items-center gap-3">
      <label htmlFor="note" className="text-[18px] text-quiet">
        Note
      </label>
      <input
        ref={field}
        id="note"
        className="min-h-14 flex-1 rounded-lg border border-hair bg-raised px-4 text-[20px]"
        value={text}
        maxLength={4000}
        onChange={(event) => setText(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
          if (event.key === "Escape") onClose();
        }}
      />
    </div>
  );
}
