import type { Miniature } from "../api/types";
import { counted } from "../parts/words";

const RUNGS: Record<string, number> = { hard: 4, medium: 3, easy: 2, "extra-easy": 1 };
const STATUS: Record<string, string> = { best: "none fewer", good: "fewer may be possible" };

/** The heats in a few words: how many, their grades one after another, minutes and grams. */
export function sayMiniature(plan: Miniature): string {
  if (plan.status === "impossible") return "no plan is possible";
  const heats =
    plan.heats > 0 ? [counted(plan.heats, "heat"), plan.grades.map(sayGrade).join(" · ")] : ["no heat"];
  const tail = [`about ${String(Math.round(plan.minutes))} min`, `${plan.grams.toFixed(1)} g`];
  return [...heats, ...tail].join(", ");
}

const sayGrade = (grade: string) => grade.replace("-", " ");

/** The ladder of a piece to be, in miniature: a column for each heat, its grade by rungs and in words. */
export function Ladderlet({ plan, stale }: { plan: Miniature; stale: boolean }) {
  return (
    <div className={stale ? "opacity-50" : ""}>
      <ol className="flex h-16 items-end gap-3" aria-label="Heats">
        {plan.grades.map((grade, n) => (
          <li key={`${grade}-${String(n)}`} className="flex w-[84px] flex-col items-start">
            <svg width="84" height={8 + 9 * (RUNGS[grade] ?? 4)} aria-hidden className="text-ink">
              <title>{sayGrade(grade)}</title>
              <path
                d={`M1 ${8 + 9 * (RUNGS[grade] ?? 4)}V1H83V${8 + 9 * (RUNGS[grade] ?? 4)}`}
                fill="none"
                stroke="currentColor"
              />
              {Array.from({ length: RUNGS[grade] ?? 0 }, (_, rung) => (
                <path
                  key={String(rung)}
                  d={`M1 ${6 + 9 * rung}H14`}
                  stroke="var(--accent)"
                  strokeWidth="2.5"
                />
              ))}
            </svg>
            <span className="text-[14px]">
              {n + 1} {sayGrade(grade)}
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-2 text-[17px]">
        <b className="font-semibold">{plan.heats > 0 ? counted(plan.heats, "heat") : "No heat"}</b>
        <span className="text-quiet">{plan.heats > 0 && `: ${STATUS[plan.status] ?? plan.status}`}</span>
        {` · about ${String(Math.round(plan.minutes))} min · `}
        <span className="figures">{plan.grams.toFixed(1)}</span> g
      </p>
    </div>
  );
}
