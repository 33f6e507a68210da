/** The piece of the step at hand; in a heat with where the flame goes now. */

import type { FlameAim } from "../drawing/FlameAt";
import { PictureView } from "../drawing/PictureView";
import type { RunHere } from "../happened/follow";
import { heatAt } from "./Stages";
import { pictureOf } from "./StepFace";

export function AimedPicture({ here }: { here: RunHere }) {
  const { view: run } = here;
  const flame = flameNow(here);
  const below = run.step.kind === "heat" && run.step.heat_from === "below";
  return (
    <figure className="mt-6 ml-auto w-full max-lg:mt-0 max-lg:w-[330px] max-sm:hidden">
      {flame && (
        <figcaption className="text-center text-[15px] text-quiet">
          flame goes {below ? "under here" : "here"}
        </figcaption>
      )}
      <div className="h-60">
        <PictureView picture={pictureOf(run)} size={[330, 224]} flame={flame} />
      </div>
    </figure>
  );
}

/** Where the flame goes: in the stage at hand of a heat that was rehearsed, else in the heat; nowhere once it is off. */
export function flameNow({ view: run, turn }: RunHere): FlameAim | null {
  const heat = heatAt(run);
  if (!heat || run.step.kind !== "heat" || turn.off_ms !== null || turn.outcomes.length > 0) return null;
  const { flame, stages } = heat;
  const stage = flame.next === null ? undefined : stages[Math.max(0, flame.next - 1)];
  const told = stages.length > 0 ? stage : run.step;
  return told?.aim ? { aim: told.aim, about: told.about ?? null } : null;
}
