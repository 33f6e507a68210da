import { RadioGroup } from "radix-ui";
import { useBench, useTables } from "../api/queries";
import type { Habit, HeatStep, PieceView } from "../api/types";
import { optionsOf, Select } from "../parts/Select";
import { saySeconds } from "../parts/words";
import { VERDICTS } from "./Compare";
import { type Chosen, useJob } from "./queries";
import { WholePiece } from "./WholePiece";

export type ChoicesProps = {
  view: PieceView;
  heats: HeatStep[];
  stale: number[];
  chosen: Chosen;
  /** Whether the other heats are rehearsed too, behind what is looked at. */
  ahead: boolean;
  onChoose: (what: Partial<Chosen>) => void;
};

const HABITS = optionsOf<Habit>({
  best: "the best programme",
  join: "flame on the join",
  even: "circling evenly",
  light: "flame on the light part",
});
const settingWords = (setting: number) =>
  setting === 1 ? "full flame" : `flame at ${String(Math.round(setting * 10))} tenths`;
const AHEAD = { behind: true, every: 1500 };
const box = "min-h-10 max-w-33 rounded-md border border-hair bg-raised px-2 text-[15px]";

/** Which heat, with which torch and tip, on what, by which programme or habit. */
export function Choices({ view, heats, stale, chosen, ahead, onChoose }: ChoicesProps) {
  const tables = useTables().data;
  const bench = useBench().data?.bench;
  const torch = chosen.torch ?? view.document.bench?.torch ?? bench?.torch ?? "";
  const surface = chosen.surface ?? view.document.bench?.surface ?? bench?.surface ?? "";
  return (
    <div className="flex flex-wrap items-center gap-x-2.5 gap-y-2">
      <RadioGroup.Root
        aria-label="Heat"
        className="flex flex-wrap items-center gap-1.5"
        value={String(chosen.heat_no)}
        onValueChange={(to) => onChoose({ heat_no: Number(to) })}
      >
        {heats.map((heat) => (
          <RadioGroup.Item
            key={heat.heat_no}
            value={String(heat.heat_no)}
            className="inline-flex min-h-10 cursor-pointer items-center gap-2 rounded-md border border-hair bg-raised px-3 text-[16px] data-[state=checked]:border-lit data-[state=checked]:bg-lit data-[state=checked]:text-on-lit"
          >
            Heat {heat.heat_no}
            <HeatNote view={view} heat={heat} stale={stale} chosen={chosen} ahead={ahead} />
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
      <Select
        label="Torch and tip"
        className={box}
        value={torch}
        options={(tables?.torches ?? []).map((one) => [one.id, `${one.name}, ${one.tip}`])}
        onChoose={(to) => onChoose({ torch: to })}
      />
      <Select
        label="Surface"
        className={box}
        value={surface}
        options={(tables?.surfaces ?? []).map((one) => [one.id, one.name])}
        onChoose={(to) => onChoose({ surface: to })}
      />
      <Select
        label="Programme or habit"
        className={box}
        value={chosen.habit}
        options={HABITS}
        onChoose={(habit) => onChoose({ habit, setting: 1 })}
      />
      {chosen.habit !== "best" && (
        <Select
          label="Flame setting"
          className={box}
          value={String(chosen.setting)}
          options={(tables?.flame_settings ?? []).map((flame_setting) => [
            String(flame_setting),
            settingWords(flame_setting),
          ])}
          onChoose={(to) => onChoose({ setting: Number(to) })}
        />
      )}
      {heats.length > 1 && <WholePiece key={view.id} view={view} />}
    </div>
  );
}

type HeatNoteProps = { view: PieceView; heat: HeatStep; stale: number[]; chosen: Chosen; ahead: boolean };

/** What is known of a heat: its rehearsal's verdict and time as soon as they are there, else its grade. */
function HeatNote({ view, heat, stale, chosen, ahead }: HeatNoteProps) {
  const { job } = useJob(view, "heat", { ...chosen, heat_no: heat.heat_no }, ahead, AHEAD);
  const found = job?.rehearsal;
  const words = stale.includes(heat.heat_no)
    ? "out of date"
    : found
      ? `${VERDICTS[found.verdict].sign} ${found.seconds_to_flow ? saySeconds(found.seconds_to_flow.likely) : VERDICTS[found.verdict].words}`
      : heat.rehearsed?.likely_s
        ? saySeconds(heat.rehearsed.likely_s)
        : (heat.joins[0]?.grade ?? heat.purpose);
  return <span className="text-[14px] opacity-80">{words}</span>;
}
