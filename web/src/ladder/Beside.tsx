import { type Otherwise, usePlanBeside, useTables } from "../api/queries";
import type { HouseOverrides, PieceView } from "../api/types";
import { planChanges } from "../document/changes";
import { movedJoins } from "../document/moves";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { Select } from "../parts/Select";
import { LadderDrawing } from "./LadderDrawing";

export type BesideChoice = { words: string; other: Otherwise };

export type BesideProps = {
  view: PieceView;
  choice: BesideChoice | null;
  onChoose: (choice: BesideChoice | null) => void;
  height: number;
};

/** Another plan of the same piece, under another house rule or without the moves by hand, and how the two differ. */
export function Beside({ view, choice, onChoose, height }: BesideProps) {
  const asked = usePlanBeside(view, choice?.other ?? null);
  const plan = asked.data ?? null;
  const choices = useChoices(view);
  return (
    <div className="mt-3 border-t border-hair pt-3">
      <div className="flex items-center gap-3">
        <span className="text-[15px] text-quiet">Another plan</span>
        <Select
          label="Another plan"
          className="min-h-10 max-w-96 rounded-md border border-hair bg-raised px-2 text-[15px]"
          value={choice?.words ?? ""}
          options={[["", "nothing"], ...choices.map((one) => [one.words, one.words] as const)]}
          onChoose={(words) => onChoose(choices.find((one) => one.words === words) ?? null)}
        />
        {choice && (
          <Button look="bare" onClick={() => onChoose(null)}>
            Put it away
          </Button>
        )}
      </div>
      {choice && asked.error && <FaultList error={asked.error} />}
      {choice && !plan && !asked.error && (
        <p className="mt-3 text-quiet" role="status">
          Planning…
        </p>
      )}
      {choice && plan && (
        <section aria-label="The other plan" className="mt-3">
          <Differences told={planChanges(view.plan, plan)} words={choice.words} />
          {!plan.conflict && (
            <LadderDrawing
              document={view.document}
              plan={plan}
              shown={null}
              selected={null}
              height={height}
              zoom={1}
              label="The other ladder"
              onChoose={() => undefined}
            />
          )}
        </section>
      )}
    </div>
  );
}

function Differences({ told, words }: { told: string[]; words: string }) {
  return (
    <div className="text-[16px] leading-snug">
      <p className="font-semibold">
        {told.length === 0 ? `With ${words} the plan is the same.` : `With ${words}:`}
      </p>
      <ul className="mt-1 list-disc pl-5">
        {told.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
    </div>
  );
}

/** What could be otherwise: no moves by hand, or each house rule that plans, at each of its other options. */
function useChoices(view: PieceView): BesideChoice[] {
  const tables = useTables();
  const house = view.house as unknown as Record<string, unknown>;
  const planning = (tables.data?.choices ?? []).filter((choice) => choice.beside);
  const rules = planning.flatMap((choice) =>
    choice.options
      .filter((option) => house[choice.key] !== option.value)
      .map((option) => ({
        words: `${choice.title.toLowerCase()}: ${option.words}`,
        other: {
          house: { [choice.key]: option.value } as unknown as HouseOverrides,
          withoutMoves: false,
        },
      })),
  );
  const moves = { words: "no moves by hand", other: { house: {}, withoutMoves: true } };
  return movedJoins(view.document).length > 0 ? [moves, ...rules] : rules;
}
