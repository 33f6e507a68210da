import { Link, Outlet, useMatch } from "@tanstack/react-router";
import { useRef, useState } from "react";
import { useSizes } from "../api/queries";
import type { CalculatorView } from "../api/types";
import { FaultList } from "../parts/FaultList";
import { boxed } from "../parts/Field";
import { ActionKey } from "../shell/ActionKey";
import { useKeys } from "../shell/keys";
import { findIn } from "./typed";

/** Sizes: every calculator at the left, found by a word; the one at work beside them. */
export function SizesPage() {
  const sizes = useSizes();
  const chosen = useMatch({ from: "/sizes/$name", shouldThrow: false });
  const [words, setWords] = useState("");
  const search = useRef<HTMLInputElement>(null);
  useKeys({ "list.find": () => search.current?.focus() });
  const found = findIn(sizes.data ?? [], words);
  return (
    <div className="flex h-full print:block">
      <nav
        aria-label="Calculators"
        className="relative w-56 shrink-0 overflow-y-auto border-r border-hair py-4 print:hidden"
      >
        <label className="flex items-center gap-2 px-4">
          <span className="sr-only">Find a calculator</span>
          <input
            ref={search}
            className={boxed}
            value={words}
            placeholder="Find"
            onChange={(event) => setWords(event.target.value)}
          />
          <ActionKey of="list.find" />
        </label>
        <FaultList error={sizes.error} />
        {groupsOf(found).map(([group, list]) => (
          <section key={group} className="mt-3">
            <h2 className="px-4 text-[13px] text-quiet">{group}</h2>
            <ul>
              {list.map((one) => (
                <li key={one.name}>
                  <Link
                    to="/sizes/$name"
                    params={{ name: one.name }}
                    className="block border-l-[3px] border-transparent py-1 pl-4 text-[15px] hover:bg-sunk"
                    activeProps={{ className: "!border-accent font-bold" }}
                  >
                    {one.title}
                  </Link>
                </li>
              ))}
            </ul>
          </section>
        ))}
        {sizes.isSuccess && found.length === 0 && (
          <p className="px-4 py-3 text-[15px] text-quiet">No calculator holds these words.</p>
        )}
      </nav>
      <div className="relative min-w-0 flex-1 overflow-y-auto print:overflow-visible">
        {chosen ? <Outlet /> : <Begin list={found} />}
      </div>
    </div>
  );
}

function Begin({ list }: { list: CalculatorView[] }) {
  return (
    <div className="px-7 py-5">
      <h1 className="text-[26px] font-bold">Sizes</h1>
      <p className="text-[16px] text-quiet">
        Choose what is to be measured. Lengths may be typed as 0.8, 18 ga, 7/16 in or 5/32&quot;; ring sizes
        as US 6 1/2, UK N½, JP 13 or 54; several readings of one thing as 17.2; 17.3; 17.25 are their mean.
      </p>
      <ul className="mt-4 grid grid-cols-2 gap-x-8 border-t border-hair">
        {list.map((one) => (
          <li key={one.name} className="border-b border-hair">
            <Link to="/sizes/$name" params={{ name: one.name }} className="block py-2 hover:bg-sunk">
              <span className="text-[17px] font-semibold">{one.title}</span>
              <span className="block text-[14px] text-quiet">{one.about}</span>
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}

function groupsOf(list: CalculatorView[]): [string, CalculatorView[]][] {
  const groups = new Map<string, CalculatorView[]>();
  for (const one of list) groups.set(one.group, [...(groups.get(one.group) ?? []), one]);
  return [...groups];
}
