import { useState } from "react";
import { Button } from "../parts/Button";
import { Closing, Panel } from "../parts/Panel";
import { ActionKey } from "./ActionKey";
import { ACTIONS, actionsAt, type Place } from "./actions";
import { actionsNow, useKeys } from "./keys";

/** Places whose keys hold, or may come to hold, wherever those of another place do. */
const WITH: Partial<Record<Place, Place>> = {
  "on a piece or the bench": "on a piece",
  "on a heat or a join of the ladder": "on a piece",
  "on a part of the picture": "on a piece",
  "while pointing at parts": "on a piece",
  "on the time of a rehearsal": "on a piece",
};
const PLACES: Place[] = [
  "at the torch",
  "on a piece",
  "on a piece or the bench",
  "on a part of the picture",
  "while pointing at parts",
  "on a heat or a join of the ladder",
  "on the time of a rehearsal",
  "at a drawing bench",
  "in a list",
  "in the list of pieces",
  "anywhere",
];

/** Every key by the place where it holds, the places of this screen first. */
export function Help({ className }: { className?: string }) {
  const [open, setOpen] = useState(false);
  useKeys({ "help.open": () => setOpen(true) });
  return (
    <Panel
      title="Keys"
      trigger={
        <button type="button" className={className}>
          Keys <ActionKey of="help.open" />
        </button>
      }
      width="wide"
      open={open}
      onOpen={setOpen}
      beside={
        <Closing>
          <Button look="bare">Close</Button>
        </Closing>
      }
    >
      <PlacesOfKeys />
    </Panel>
  );
}

function PlacesOfKeys() {
  const now = actionsNow();
  const held = (place: Place) => actionsAt(place).some((id) => now.has(id));
  const here = (place: Place) => held(place) || held(WITH[place] ?? place);
  const places = [...PLACES.filter(here), ...PLACES.filter((place) => !here(place))];
  return (
    <div className="mt-3 columns-2 gap-10">
      {places.map((place) => (
        <section key={place} className="mb-4 break-inside-avoid">
          <h3 className={`text-[15px] ${here(place) ? "font-semibold" : "text-quiet"}`}>
            {place}
            {!here(place) && ", not on this screen"}
          </h3>
          <ul className="mt-1 border-t border-hair">
            {actionsAt(place).map((id) => (
              <li key={id} className="flex items-center justify-between gap-4 py-0.5 text-[16px]">
                {ACTIONS[id].label} <ActionKey of={id} />
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}
