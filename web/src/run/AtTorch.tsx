import { useState } from "react";
import { Button } from "../parts/Button";
import { Key } from "../parts/Key";
import { Closing, Panel } from "../parts/Panel";
import { optionsOf, Select } from "../parts/Select";
import { ActionKey } from "../shell/ActionKey";
import { printed } from "../shell/actions";
import { nameOfKey } from "../shell/keys";
import { sound } from "./cue";
import { type Cue, keepAtTorch, useAtTorch } from "./kept";
import { whyNoPedal } from "./pedal";
import type { Awake } from "./useAwake";

const CUES = optionsOf<Cue>({ off: "nothing", chime: "a chime", spoken: "the sign, spoken" });

/** What this device does at the torch: its pedal, what is heard, whether the screen stays on. */
export function AtTorch({ awake, className }: { awake: Awake; className?: string }) {
  const { cue } = useAtTorch();
  const choose = (one: Cue) => {
    keepAtTorch({ cue: one });
    sound(one, "So it will be heard");
  };
  return (
    <Panel
      title="Pedal and sound"
      trigger={
        <button type="button" className={className}>
          Pedal and sound
        </button>
      }
      width="narrow"
      foot={
        <Closing>
          <Button className="min-h-14 px-8">Close</Button>
        </Closing>
      }
    >
      <div className="text-[18px]">
        <Pedal />
        <div className="mt-5 flex items-center justify-between gap-6 border-t border-hair pt-4">
          <label htmlFor="cue">When it is time to look, I hear</label>
          <Select
            id="cue"
            value={cue}
            options={CUES}
            onChoose={choose}
            className="min-h-14 min-w-60 rounded-md border border-hair px-3"
          />
        </div>
        <p className="mt-5 border-t border-hair pt-4 text-quiet">
          {awake === "kept"
            ? "The screen stays on as long as this run is open."
            : "This device does not let a page keep the screen on: set its own time longer."}
        </p>
      </div>
    </Panel>
  );
}

/** The pedal's key, learnt by pressing it. */
function Pedal() {
  const { pedal } = useAtTorch();
  const [learning, setLearning] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const hear = (event: React.KeyboardEvent) => {
    if (!learning || event.key === "Escape") return setLearning(false);
    event.preventDefault();
    event.stopPropagation();
    const key = nameOfKey(event);
    const why = whyNoPedal(key);
    setFault(why);
    if (why) return;
    keepAtTorch({ pedal: key });
    setLearning(false);
  };
  return (
    <div className="mt-4">
      <p>
        Next by <ActionKey of="run.next" />
        {pedal !== null && (
          <>
            {" "}
            or the pedal, which sends <Key>{printed(pedal)}</Key>
          </>
        )}
        .
      </p>
      <div className="mt-3 flex items-center gap-3">
        <Button
          className="min-h-14"
          onClick={() => setLearning(true)}
          onKeyDown={hear}
          onBlur={() => setLearning(false)}
        >
          {learning ? "Press the pedal now" : pedal === null ? "Learn a pedal" : "Learn another"}
        </Button>
        {pedal !== null && (
          <Button look="bare" className="min-h-14" onClick={() => keepAtTorch({ pedal: null })}>
            Forget it
          </Button>
        )}
      </div>
      {fault && (
        <p role="alert" className="mt-2 text-warn">
          {fault}
        </p>
      )}
    </div>
  );
}
