/** What a step is left by: the outcomes of its joins, the way on, a note. */
import { useEffect, useRef, useState } from "react";
import type { Offers, OfferView, OutcomeWord, RunView } from "../api/types";
import type { Turn } from "../happened/events";
import type { Saying } from "../happened/keep";
import { Key } from "../parts/Key";
import { ActionKey } from "../shell/ActionKey";
import { sayClock } from "../shell/clock";
import { sayCopies } from "./copies";
import { isShut } from "./doings";
import type { Open } from "./useCopies";
import type { Press } from "./useRunHere";

export type OutcomesProps = {
  words: OutcomeWord[];
  /** What is asked of now. */
  open: Open;
  /** All that still waits for its word, this among it. */
  left: Open[];
  onSay: (word: OutcomeWord) => void;
  /** This one and all that are left flowed. */
  onAll: () => void;
};

export function Outcomes({ words, open: { title, alike, left: copies }, left, onSay, onAll }: OutcomesProps) {
  const waiting = left.reduce((sum, one) => sum + one.left.length, 0);
  return (
    <fieldset aria-label={`How did ${title} come out?`}>
      <p className="mb-2 text-[20px]">
        How did <b className="font-semibold">{title}</b>
        {copies.length < alike && ` ${sayCopies(copies)}`} come out?
        {left.length > 1 && <span className="text-quiet"> One join after another.</span>}
      </p>
      <div className="flex flex-wrap gap-2.5">
        {waiting > 1 && (
          <button
            type="button"
            onClick={onAll}
            className="flex min-h-[72px] min-w-32 flex-1 items-center gap-3 rounded-lg border border-accent px-3 text-left text-[18px] leading-tight font-semibold"
          >
            <Key>a</Key>
            {sayAll(waiting, words[0])}
          </button>
        )}
        {words.map((word, n) => (
          <button
            key={word.outcome}
            type="button"
            onClick={() => onSay(word)}
            className={`flex min-h-[72px] min-w-32 flex-1 items-center gap-3 rounded-lg border px-3 text-left text-[18px] leading-tight ${n === 0 ? "flex-[1.5] border-accent bg-accent-soft font-semibold" : "border-hair hover:border-quiet"}`}
          >
            <Key>{word.key}</Key>
            {word.words}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

/** That all of them came out as they should: "Both flowed", "All 6 flowed", "All 11: soft". */
function sayAll(many: number, word: OutcomeWord | undefined): string {
  const all = many === 2 ? "Both" : `All ${String(many)}`;
  return word?.outcome === "flowed" ? `${all} flowed` : `${all}: ${(word?.words ?? "").toLowerCase()}`;
}

type Choice = { id: string | number; label: string; why?: string };
type ChoicesProps = {
  name: string;
  says: string;
  /** The key of the first. */
  from?: number;
  choices: Choice[];
  onChoose: (n: number) => void;
};

/** What can be done instead of going on, each by a key of its own. */
function Choices({ name, says, from = 2, choices, onChoose }: ChoicesProps) {
  return (
    <fieldset aria-label={name} className="mb-3">
      <p className="mb-2 text-[18px] text-quiet">{says}</p>
      <div className="flex flex-wrap gap-2.5">
        {choices.map(({ id, label, why }, n) => (
          <button
            key={id}
            type="button"
            onClick={() => onChoose(n)}
            className={`flex min-h-[72px] min-w-32 flex-1 items-center gap-3 rounded-lg border px-3 py-2.5 text-left text-[18px] leading-tight ${n === 0 ? "border-accent font-semibold" : "border-hair hover:border-quiet"}`}
          >
            <Key>{String(n + from)}</Key>
            <span className="min-w-0">
              {label}
              {why && <span className="block text-[15px] font-normal text-quiet">{why}</span>}
            </span>
          </button>
        ))}
      </div>
    </fieldset>
  );
}

export type TriesProps = {
  offers: OfferView[];
  /** Whether they are still looked up, or the server is away. */
  waiting: boolean;
  onTake: (offer: OfferView) => void;
  /** Leave it as it is, where nothing else can be done. */
  onLeave?: () => void;
};

/** Where something went wrong: what can be done by the work as it stands, best first, each with its reason and its steps. */
export function Tries({ offers, waiting, onTake, onLeave }: TriesProps) {
  if (waiting) {
    return (
      <p role="status" className="mb-3 text-[20px]">
        What can be done is looked up. Until then: flame off, let it cool in air, and nothing wet.
      </p>
    );
  }
  return (
    <Choices
      name="What can be tried"
      says="Not sound yet. One of these, or plan the rest anew from the line above."
      choices={
        onLeave
          ? [{ id: "leave", label: "Leave it as it is" }]
          : offers.map(({ way, title, why }) => ({ id: way, label: title, why }))
      }
      onChoose={(n) => {
        const chosen = offers[n];
        if (onLeave) onLeave();
        else if (chosen) onTake(chosen);
      }}
    />
  );
}

export type NeverProps = SideKeysProps & { never: Offers["never"] };

/** Where the step must not be done to the work as it stands: why, and nothing that goes on. */
export function Never({ never, ...beside }: NeverProps) {
  return (
    <>
      <div role="alert" className="mb-3 border-l-4 border-alarm pl-4 text-[20px]">
        {never.map(({ code, text, remedy }, n) => (
          <p key={`${code} ${text}`}>
            {/* The first is what the step is headed by. */}
            {n > 0 && text} <b className="font-semibold">{remedy}</b>
          </p>
        ))}
        <p className="text-quiet">
          This step is not done as the work stands. Go back, or plan the rest anew from the line above.
        </p>
      </div>
      <SideRow {...beside} />
    </>
  );
}

export type OpenedProps = {
  joins: { join: string; title: string }[];
  onSay: (join: string) => void;
};

/** Which of the earlier joins in the flame has opened. */
export function Opened({ joins, onSay }: OpenedProps) {
  return (
    <Choices
      name="Which has opened?"
      says="Which has opened? It is then offered to be done again."
      choices={joins.map(({ join, title }) => ({ id: join, label: title }))}
      onChoose={(n) => {
        const chosen = joins[n];
        if (chosen) onSay(chosen.join);
      }}
    />
  );
}

export type BackToProps = {
  heats: RunView["back_to"];
  /** Whether a join opened in the flame; else a look does not pass. */
  opened?: boolean;
  from?: number;
  onBack: (heat: number) => void;
};

/** Where a look does not pass: the heats that it can send back to. */
export function BackTo({ heats, opened = false, from, onBack }: BackToProps) {
  return (
    <Choices
      from={from}
      name={opened ? "What opened" : "What does not pass"}
      says={
        opened
          ? "What opened is heated again, then on from here."
          : "What does not pass is done again, to this look."
      }
      choices={heats.map(({ heat_no, title }) => ({ id: heat_no, label: `Again: ${title}` }))}
      onChoose={(n) => {
        const chosen = heats[n];
        if (chosen) onBack(chosen.heat_no);
      }}
    />
  );
}

export type OnwardProps = {
  run: RunView;
  said: string[];
  /** Whether it is asked which join has opened. */
  asked?: boolean;
  /** How long it is until a timer lets it out, s; 0 where none does, or it is over. */
  early?: number;
  onNext: () => void;
  onBack: () => void;
  onNote: () => void;
  onSkip: (() => void) | undefined;
};

/** What going on from a step says. */
function wordOf({ step, position, steps }: RunView, early: number): string {
  if (step.kind === "prepare" && step.confirm) return "I have read it";
  if (step.kind === "inspect") return "It passes";
  if (position === steps.length) return "Done";
  if (isShut(step, early)) return "Still hot";
  if (step.kind === "cool") return early > 0 ? "It is cold already" : "It is cold";
  if (step.kind === "pickle") return early > 0 ? "Out before its time" : "It is out";
  return "Next";
}

/** What is looked at where a timer is not heeded. */
function sayEarly(step: RunView["step"], early: number): string {
  const { kind } = step;
  if (isShut(step, early))
    return `${sayClock(early)} to go: what is closed cools in air to the end; hot, it draws water in`;
  const left = `${sayClock(early)} too early: `;
  if (kind === "pickle") return `${left}evenly pale? else back in`;
  return `${left}no red left? it stays hot long after`;
}

export function Onward({ run, said, asked = false, early = 0, onNext, onBack, onNote, onSkip }: OnwardProps) {
  return (
    <div className="flex flex-wrap items-stretch gap-2.5">
      <button
        type="button"
        onClick={onNext}
        disabled={isShut(run.step, early)}
        className="flex min-h-[72px] min-w-0 flex-1 items-center disabled:border-hair disabled:bg-transparent max-sm:basis-full gap-4 rounded-lg border border-accent bg-accent-soft px-5 text-left"
      >
        {!isShut(run.step, early) && <ActionKey of="run.next" />}
        <span className="shrink-0 text-[22px] font-semibold">
          {asked ? "Not known yet" : wordOf(run, early)}
        </span>
        <span className="min-w-0 truncate text-[17px] text-quiet">
          {early > 0 ? sayEarly(run.step, early) : said.length > 0 ? said.join(", ") : run.next_text}
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

export const SIDE_KEY =
  "min-h-[72px] rounded-lg border border-hair px-5 text-[18px] hover:border-quiet disabled:opacity-40 max-sm:flex-1 max-sm:px-2";

export type SideKeysProps = {
  /** Whether there is nothing to go back to. */
  first?: boolean;
  onBack: () => void;
  onNote: () => void;
  /** None where the step must not be left out. */
  onSkip: (() => void) | undefined;
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
      <button type="button" className={SIDE_KEY} onClick={onSkip} disabled={!onSkip}>
        <ActionKey of="run.skip" /> Skip
      </button>
    </>
  );
}

/** The keys beside, where nothing goes on by the wide one. */
export function SideRow(props: SideKeysProps) {
  return (
    <div className="flex flex-wrap gap-2.5">
      <SideKeys {...props} />
    </div>
  );
}

export type NoteLineProps = { turn: Turn; press: Press; onClose: () => void };

/** The note of a step, written in a line: what stood there when it was opened is what it replaces. */
export function NoteLine({ turn, press, onClose }: NoteLineProps) {
  const [before] = useState(turn.notes);
  const was = before.map((one) => one.text).join(" · ");
  const [text, setText] = useState(was);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus(), []);
  const keep = () => {
    if (text !== was) void press(...rewritten(turn.id, before, text.trim()));
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
        maxLength={20_000}
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

/** A note in place of those that stood there; one that was written elsewhere meanwhile stays beside it. */
function rewritten(turn: string, before: Turn["notes"], text: string): Saying[] {
  const last = before.at(-1);
  const others = before.filter((one) => one !== last);
  return [
    ...others.map(({ event }): Saying => ({ kind: "undo", of: event })),
    { kind: "note", turn, text, replaces: last?.event ?? null },
  ];
}
