/** What is there already: a join, with the solder that it was made with. */
import { useTables } from "../api/queries";
import type { Join } from "../api/types";
import { Choice, Tick } from "../parts/Field";

export type MadeAlreadyProps = {
  join: Join;
  soldered: boolean;
  change: (what: string, values: Partial<Join>) => void;
};

/** Whether a join is made already; of a soldered one with what, since every heat to come meets it. */
export function MadeAlready({ join, soldered, change }: MadeAlreadyProps) {
  const solders = (useTables().data?.solders ?? []).filter((one) => !one.cadmium);
  const likely =
    join.solder ?? (solders.find((one) => one.grade === (join.grade ?? "hard")) ?? solders[0])?.id ?? null;
  const tick = (made: boolean) =>
    change(made ? "made already" : "still to be made", {
      made,
      ...(soldered ? { solder: made ? likely : null, grade: null, by_hand: null } : {}),
    });
  return (
    <div className="col-span-2 grid grid-cols-2 items-end gap-x-4">
      <Tick label="made already" ticked={join.made} onTick={tick} />
      {join.made && soldered && (
        <Choice
          label="Made with"
          value={join.solder ?? ""}
          options={solders.map(({ id, name }) => [id, name] as const)}
          onChoose={(solder) => change("solder", { solder })}
        />
      )}
    </div>
  );
}
