import { describe, expect, it } from "vitest";
import type { Plan } from "../src/api/types";
import { planChanges } from "../src/document/changes";

type Row = [join: string, grade: string | null, heat: number];

/** A plan with only what a comparison looks at. */
function plan(rows: Row[], counted: Record<string, number> = {}, more: Partial<Plan> = {}): Plan {
  const steps = rows.map(([join, grade, heat_no]) => ({
    kind: "heat",
    heat_no,
    joins: [{ join, title: join, grade }],
  }));
  const objectives = Object.entries(counted).map(([name, value]) => ({ name, value, bound: value }));
  return { status: "best", conflict: null, cautions: [], steps, objectives, ...more } as unknown as Plan;
}

const warned = {
  code: "melt-risk",
  severity: "warn",
  text: "The dome comes near its solidus.",
  about: [],
  remedy: "",
};

describe("what a change did to the plan", () => {
  it.each([
    [[["rim", "hard", 1]], [["rim", "hard", 1]], []],
    [[["rim", "hard", 1]], [["rim", "medium", 1]], ["rim: hard becomes medium."]],
    [[["rim", "hard", 1]], [["rim", "hard", 2]], ["rim: heat 1 becomes 2."]],
    [[["rim", "hard", 1]], [["rim", null, 3]], ["rim: hard becomes no solder, heat 1 becomes 3."]],
    [
      [["rim", "hard", 1]],
      [
        ["rim", "hard", 1],
        ["foot", "easy", 2],
      ],
      [],
    ],
  ] as [Row[], Row[], string[]][])("from %j to %j", (before, after, told) =>
    expect(planChanges(plan(before), plan(after))).toEqual(told),
  );

  it("counts what it costs, and names graver cautions that are new", () => {
    const before = plan([["rim", "hard", 1]], { heats: 2, solders: 1, "flow-of-rest": 700 });
    const after = plan([["rim", "hard", 1]], { heats: 3, solders: 1, "flow-of-rest": 600 }, {
      cautions: [warned, { ...warned, code: "solder-shows", severity: "note", text: "It shows." }],
    } as unknown as Partial<Plan>);
    expect(planChanges(before, after)).toEqual(["Heats: 2 becomes 3.", "The dome comes near its solidus."]);
    expect(planChanges(after, after)).toEqual([]);
  });

  it("says when a plan is lost or found", () => {
    const lost = plan([], {}, {
      status: "impossible",
      conflict: { demands: [] },
    } as unknown as Partial<Plan>);
    expect(planChanges(plan([]), lost)).toEqual(["No plan is possible any more."]);
    expect(planChanges(lost, plan([]))).toEqual(["A plan is possible now."]);
  });
});
