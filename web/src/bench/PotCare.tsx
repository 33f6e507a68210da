import { useState } from "react";
import { usePot } from "../api/queries";
import type { Bench } from "../api/types";
import { Button } from "../parts/Button";
import { Closing, Panel } from "../parts/Panel";
import { sayMinutes } from "../parts/words";

type Pot = NonNullable<Bench["pot"]>;
export type PotCareProps = { pot: Pot; onMix: (pot: Pot) => void };

const NEAR_LIMIT = 0.8;
const MIXING = [
  "Gloves, glasses and an apron; a window open. No food beside it.",
  "Let the old bath cool. It holds copper: not into the drain; take it where your local rules say.",
  "Water first, cold; then the acid or the salt into the water, little by little. Never water into acid.",
  "Warm it covered, below a simmer; never breathe over it. Soda stands ready for what is spilt.",
  "Copper, brass or plastic tongs only. Write the date on the lid.",
];

/** How the pot stands: what went through it, how much copper it bears, what to do about iron, and a new one mixed. */
export function PotCare({ pot, onMix }: PotCareProps) {
  const told = usePot().data;
  const limit = told?.copper_limit_g_l ?? 0;
  const share = limit > 0 ? pot.copper_g_l / limit : 0;
  return (
    <div className="mt-2 text-[15px]">
      {told && (
        <p className="text-quiet">
          {told.loads === 0
            ? "Nothing has been in it"
            : `${String(told.loads)} loads${told.minutes === null ? "" : `, ${sayMinutes(told.minutes)} at the middle`}`}
          {pot.mixed_on
            ? ` since it was mixed on ${sayOn(pot.mixed_on)}`
            : " by the log; when it was mixed is not known"}
          {told.early > 0 && `; ${String(told.early)} out before their time`}
          {told.too_long > 0 && <b className="text-warn">; {told.too_long} left three times too long</b>}.
        </p>
      )}
      {share >= NEAR_LIMIT && (
        <p role="alert" className="mt-1 font-semibold text-warn">
          {share >= 1 ? "It is spent" : "It is nearly spent"}: {pot.copper_g_l} of {limit} g/l copper. Mix a
          new one.
        </p>
      )}
      {pot.iron_touched && (
        <p role="alert" className="mt-1 font-semibold text-warn">
          What comes out of it is pink. Take the iron out; the pink skin brushes off, or comes off in fresh
          pickle with a little peroxide: gloves, and a window open. Once no iron is in it the bath may be used
          on; mixed anew it is safe.
        </p>
      )}
      <Mixing
        onMixed={() =>
          onMix({
            ...pot,
            copper_g_l: 0,
            iron_touched: false,
            mixed_on: new Date().toISOString().slice(0, 10),
          })
        }
      />
    </div>
  );
}

const sayOn = (day: string): string =>
  new Date(`${day}T12:00:00`).toLocaleDateString("en-GB", { day: "numeric", month: "long", year: "numeric" });

function Mixing({ onMixed }: { onMixed: () => void }) {
  const [open, setOpen] = useState(false);
  return (
    <Panel
      title="A new pickle"
      trigger={<Button className="mt-2">Mix a new one</Button>}
      open={open}
      onOpen={setOpen}
      foot={
        <>
          <Closing>
            <Button look="bare">Not now</Button>
          </Closing>
          <Button
            onClick={() => {
              onMixed();
              setOpen(false);
            }}
          >
            It is mixed
          </Button>
        </>
      }
    >
      <ol className="mt-3 list-decimal space-y-2 pl-6 text-[18px]">
        {MIXING.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ol>
      <p className="mt-3 text-[15px] text-quiet">
        How strong: by the maker's sheet. Local rules and trained people decide.
      </p>
    </Panel>
  );
}
