import type { Rehearsal } from "../api/types";
import { Tip } from "../parts/Tip";
import { stageAt } from "./moments";

type Stage = Rehearsal["programme"][number];

const SIGNS: Record<Stage["until"]["sign"], string> = {
  crust: "white crust",
  dark: "dark",
  clear: "clear as glass",
  glow: "glow",
  range: "in its range",
  spins: "draws up",
  size: "as large as the mark",
  runs: "runs",
  count: "",
};

/** What ends a stage, in a word or two. */
export const signWords = (stage: Stage): string => stage.until.word ?? SIGNS[stage.until.sign];

export type StageLineProps = {
  rehearsal: Rehearsal;
  seconds: number;
  end: number;
  onSeconds: (seconds: number) => void;
};

/** The stages along the time line, each as long as it takes and named by the sign that ends it; a press goes to its end. */
export function StageLine({ rehearsal, seconds, end, onSeconds }: StageLineProps) {
  const now = stageAt(rehearsal, seconds);
  let from = 0;
  return (
    <ol aria-label="Signs" className="flex h-8 w-full overflow-hidden rounded-md border border-hair">
      {rehearsal.programme.map((stage, n) => {
        const share = Math.min(stage.seconds.likely, Math.max(0, end - from)) / end;
        from += stage.seconds.likely;
        const until = Math.min(from, end);
        return (
          <li
            key={stage.text}
            className="min-w-8 border-hair border-r last:border-r-0"
            style={{ flexGrow: Math.max(share, 0.02), flexBasis: 0 }}
          >
            <Tip words={signWords(stage)}>
              <button
                type="button"
                className={`h-full w-full truncate px-2 text-right text-[15px] ${n === now ? "bg-lit font-semibold text-on-lit" : "bg-raised text-ink"}`}
                onClick={() => onSeconds(until)}
              >
                {signWords(stage)}
              </button>
            </Tip>
          </li>
        );
      })}
    </ol>
  );
}
