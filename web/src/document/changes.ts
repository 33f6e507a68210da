/** What a change did to the plan, in words: which joins go to another heat or grade, what it costs or saves. */
import type { Plan } from "../api/types";
import { gradeWords } from "../parts/words";

type Made = { title: string; heat: number; grade: string };

const COUNTED: Record<string, string> = {
  "joins-run-again": "joins that run again",
  heats: "heats",
  rounds: "rounds",
  "soft-while-loaded": "joins soft while something pulls",
  protected: "joins to protect",
  "near-melting": "heats near the melting of something thin",
  solders: "different solders",
};

function madeIn(plan: Plan): Map<string, Made> {
  const made = new Map<string, Made>();
  for (const step of plan.steps)
    if (step.kind === "heat")
      for (const row of step.joins)
        made.set(row.join, {
          title: row.title,
          heat: step.heat_no,
          grade: row.grade ? gradeWords(row.grade) : "no solder",
        });
  return made;
}

/** Say how one plan differs from another; nothing when they come to the same. */
export function planChanges(before: Plan, after: Plan): string[] {
  if (before.status !== after.status && (before.conflict || after.conflict))
    return [after.conflict ? "No plan is possible any more." : "A plan is possible now."];
  const told: string[] = [];
  const was = madeIn(before);
  for (const [join, now] of madeIn(after)) {
    const then = was.get(join);
    if (!then) continue;
    const grade = then.grade === now.grade ? "" : `${then.grade} becomes ${now.grade}`;
    const heat = then.heat === now.heat ? "" : `heat ${String(then.heat)} becomes ${String(now.heat)}`;
    const words = [grade, heat].filter(Boolean).join(", ");
    if (words) told.push(`${now.title}: ${words}.`);
  }
  const values = new Map(before.objectives.map((objective) => [objective.name, objective.value]));
  for (const one of after.objectives) {
    const then = values.get(one.name);
    const words = COUNTED[one.name];
    if (words && then !== undefined && then !== one.value)
      told.push(
        `${words[0]?.toUpperCase() ?? ""}${words.slice(1)}: ${String(then)} becomes ${String(one.value)}.`,
      );
  }
  const cautions = (plan: Plan) => new Set(plan.cautions.map((caution) => caution.code));
  const then = cautions(before);
  const fresh = [...cautions(after)].filter((code) => !then.has(code));
  const texts = after.cautions.filter(
    (caution) => fresh.includes(caution.code) && caution.severity !== "note",
  );
  told.push(...texts.slice(0, 3).map((text) => text.text));
  return told;
}
