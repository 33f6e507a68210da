import type { PieceView, Rehearsal } from "../api/types";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { Progress } from "./Progress";
import { type Chosen, useJob } from "./queries";

type Verdict = Rehearsal["verdict"];

/** The verdict in a word, told by a sign as well as by its colour. */
export const VERDICTS: Record<Verdict, { sign: string; words: string; look: string }> = {
  sure: { sign: "✓", words: "sure", look: "text-accent" },
  care: { sign: "~", words: "with care", look: "text-warn" },
  luck: { sign: "✕", words: "by luck", look: "text-alarm" },
  never: { sign: "–", words: "never", look: "text-alarm" },
};

/** The three habits beside the programme, as the model tried them. */
export function Habits({ rehearsal }: { rehearsal: Rehearsal }) {
  if (rehearsal.habits.length === 0) return null;
  return (
    <section aria-label="Habits">
      <h3 className="text-[16px] font-semibold text-quiet">And the habits</h3>
      <Tried rows={rehearsal.habits.map((habit) => ({ key: habit.habit, ...habit }))} />
    </section>
  );
}

type Row = { key: string; verdict: Verdict; text: string };

function Tried({ rows }: { rows: Row[] }) {
  return (
    <ul className="mt-1">
      {rows.map((row) => (
        <li key={row.key} className="grid grid-cols-[1.6rem_1fr] py-0.5 text-[16px] leading-snug">
          <span
            className={`font-bold ${VERDICTS[row.verdict].look}`}
            role="img"
            aria-label={VERDICTS[row.verdict].words}
          >
            {VERDICTS[row.verdict].sign}
          </span>
          <span>{row.text}</span>
        </li>
      ))}
    </ul>
  );
}

export type HelpProps = {
  view: PieceView;
  chosen: Chosen;
  wanted: boolean;
  onWanted: () => void;
};

/** What would help, each really tried: asked for by a button, since it takes a while. */
export function WhatHelps({ view, chosen, wanted, onWanted }: HelpProps) {
  const asked = useJob(view, "help", { ...chosen, habit: "best", setting: 1 }, wanted);
  const job = asked.job ?? null;
  return (
    <section aria-label="What would help" className="mt-4">
      {!wanted && <Button onClick={onWanted}>What would help?</Button>}
      {wanted && asked.underWay && job && <Progress job={job} onStop={() => void asked.stop()} />}
      <FaultList error={asked.error} />
      {wanted && job?.state === "stopped" && <Button onClick={asked.again}>Try again</Button>}
      {job?.state === "done" && (
        <>
          <h3 className="text-[16px] font-semibold text-quiet">What would help, as the model tried it</h3>
          <Tried rows={job.help.map((one) => ({ key: `${one.kind}-${one.id}`, ...one }))} />
        </>
      )}
    </section>
  );
}
