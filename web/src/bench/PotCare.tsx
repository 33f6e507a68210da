import { useState } from "react";
import { usePot } from "../api/queries";
import type { Bench } from "../api/types";
import { Button } from "../parts/Button";
import { Closing, Panel } from "../parts/Panel";
import { sayMinutes } from "../parts/words";

type Pot = NonNullable<Bench["pot"]>;
export type PotCareProps = { pot: Pot; keep: (more: Partial<Pot>) => void };

const NEAR_LIMIT = 0.8;
/** From where on it is worth telling that loads take longer, or less. */
const TELLING = 0.15;
const MIXING = [
  "Gloves, glasses and an apron; a window open. No food beside it.",
  "Let the old bath cool. It holds copper: not into the drain; take it where your local rules say.",
  "Water first, cold; then the acid or the salt into the water, little by little. Never water into acid.",
  "Warm it covered, below a simmer; never breathe over it. Soda stands ready for what is spilt.",
  "Copper, brass or plastic tongs only. Write the date on the lid.",
];

/** How the pot stands: what went through it, how much copper it bears, what to do about iron, and a new one mixed. */
export function PotCare({ pot, keep }: PotCareProps) {
  const told = usePot().data;
  const limit = told?.copper_limit_g_l ?? 0;
  const pace = told?.pace ?? 1;
  const copper = told?.copper?.now_g_l ?? pot.copper_g_l;
  const share = limit > 0 ? copper / limit : 0;
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
      {told?.copper && share < NEAR_LIMIT && (
        <p className="text-quiet">
          By its loads since that was measured about {told.copper.now_g_l} g/l of copper by now; spent after
          some {told.copper.loads_left} more.
        </p>
      )}
      {Math.abs(pace - 1) >= TELLING && (
        <p className="mt-1 flex flex-wrap items-center gap-3">
          Its loads take {pace} times as long as reckoned.
          <Button
            onClick={() =>
              keep({ pace: rounded((pot.pace ?? 1) * pace), paced_at: new Date().toISOString() })
            }
          >
            Reckon with that
          </Button>
        </p>
      )}
      {(pot.pace ?? 1) !== 1 && (
        <p className="text-quiet">
          Reckoned at {pot.pace} times the minutes of a fresh bath, by its own loads.{" "}
          <button type="button" className="underline" onClick={() => keep({ pace: 1, paced_at: null })}>
            As a fresh one
          </button>
        </p>
      )}
      {share >= NEAR_LIMIT && (
        <p role="alert" className="mt-1 font-semibold text-warn">
          {share >= 1 ? "It is spent" : "It is nearly spent"}: {copper} of {limit} g/l copper
          {told?.copper ? " by its loads" : ""}. Mix a new one.
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
        grams={(told?.mix_g_per_l ?? 0) * (pot.litres ?? 0)}
        onMixed={() =>
          keep({
            copper_g_l: 0,
            copper_at: null,
            iron_touched: false,
            strength_pct: 100,
            pace: 1,
            paced_at: null,
            mixed_on: new Date().toISOString().slice(0, 10),
          })
        }
      />
    </div>
  );
}

const sayOn = (day: string): string =>
  new Date(`${day}T12:00:00`).toLocaleDateString("en-GB", { day: "numeric", month: "long", year: "numeric" });

/** Two digits behind the point, and within what a pot can be reckoned at. */
const rounded = (pace: number): number => Math.min(5, Math.max(0.2, Math.round(pace * 100) / 100));

function Mixing({ grams, onMixed }: { grams: number; onMixed: () => void }) {
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
        How strong: by the maker's sheet
        {grams > 0 && `; usually ${String(Math.round(grams))} g for what the pot holds`}. Local rules and
        trained people decide.
      </p>
    </Panel>
  );
}
