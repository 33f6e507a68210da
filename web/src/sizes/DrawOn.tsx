import { useNavigate } from "@tanstack/react-router";
import { Button } from "../parts/Button";
import type { Units } from "../parts/units";
import { keepTyped, readKept } from "./kept";
import type { Typed } from "./typed";

export type DrawOnProps = {
  found: Record<string, unknown>;
  metal: Typed | undefined;
  profile: Typed | undefined;
  units: Units;
};

/** From a poured bar on to its draw-down: the bar's metal, section and mass are taken over. */
export function DrawOn({ found, metal, profile, units }: DrawOnProps) {
  const go = useNavigate();
  const on = () => {
    const mass = typeof found.mass_g === "number" ? found.mass_g.toFixed(2) : "";
    const before = readKept("draw-down", units) ?? {};
    const bar = {
      ...before,
      metal: metal ?? "sterling-925",
      start: profile ?? { kind: "" },
      mass_g: `${mass} g`,
      length_mm: "",
    };
    keepTyped("draw-down", bar, units);
    void go({ to: "/sizes/$name", params: { name: "draw-down" } });
  };
  return (
    <div className="mt-3 border-t border-hair pt-3 print:hidden">
      <Button onClick={on}>Draw this bar down</Button>
    </div>
  );
}
