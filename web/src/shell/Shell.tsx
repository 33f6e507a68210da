import { Link, Outlet, useRouterState } from "@tanstack/react-router";
import { useId } from "react";
import { optionsOf, Select } from "../parts/Select";
import { Apart } from "./Apart";
import { type Pin, pinFace, usePin } from "./face";
import { Help } from "./Help";
import { Palette } from "./Palette";
import { Rail } from "./Rail";

const PLACES = [
  ["/work", "Work"],
  ["/sizes", "Sizes"],
  ["/bench", "Bench"],
  ["/log", "Log"],
] as const;

/** The frame of every screen: places at the left, the rail along the bottom. At the torch the step has all the room. */
export function Shell() {
  const place = useRouterState({ select: (state) => state.location.pathname });
  const atTorch = place.startsWith("/run/");
  return (
    <div className="flex h-dvh flex-col overflow-hidden print:block print:h-auto print:overflow-visible">
      <div className="flex min-h-0 flex-1">
        {!atTorch && <Places />}
        <main className="relative min-w-0 flex-1 overflow-y-auto has-data-banded:scroll-pt-[104px] print:overflow-visible">
          <Outlet />
        </main>
      </div>
      <Rail />
      <Apart place={place}>
        <Palette />
      </Apart>
    </div>
  );
}

function Places() {
  return (
    <nav
      aria-label="Places"
      className="flex w-[92px] shrink-0 flex-col border-r border-hair pt-5 print:hidden"
    >
      {PLACES.map(([to, name]) => (
        <Link
          key={to}
          to={to}
          className="border-l-[3px] border-transparent py-2.5 pl-4 text-[15px] text-quiet hover:text-ink"
          activeProps={{ className: "!border-accent !text-ink font-bold" }}
        >
          {name}
        </Link>
      ))}
      <Help className="mt-auto min-h-10 pl-4 text-left text-[15px] text-quiet hover:text-ink" />
      <FacePin />
    </nav>
  );
}

const FACES = optionsOf<Pin>({ auto: "auto", day: "Day", dim: "Dim" });

function FacePin() {
  const id = useId();
  const pin = usePin();
  return (
    <label htmlFor={id} className="mt-2 mb-4 block px-3 text-[13px] text-quiet">
      Light
      <Select
        id={id}
        className="mt-1 min-h-9 w-full rounded border border-hair bg-raised px-1 text-[13px] text-ink"
        value={pin}
        options={FACES}
        onChoose={pinFace}
      />
    </label>
  );
}

export function NotFound() {
  return (
    <div className="p-10">
      <h1 className="text-2xl font-semibold">Nothing is kept here</h1>
      <p className="mt-2 text-quiet">
        The address names no place of Eskel.{" "}
        <Link to="/work" className="text-accent underline">
          Back to Work
        </Link>
      </p>
    </div>
  );
}
