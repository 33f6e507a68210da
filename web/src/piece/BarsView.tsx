import type { LengthPlan } from "../api/types";
import { most } from "../parts/extent";
import { keyed } from "../parts/keyed";
import { Tip } from "../parts/Tip";
import { bareLength, sayLength } from "../parts/units";
import { useUnits } from "../parts/useUnits";

/** How lengths come out of the bars on the bench: each bar to scale, its cuts named, what is left hatched away. */
export function BarsView({ plans }: { plans: LengthPlan[] }) {
  const used = plans.filter((plan) => plan.bars.length > 0);
  const units = useUnits();
  if (used.length === 0) return null;
  const longest = most(used.flatMap((plan) => plan.bars.map((bar) => bar.length_mm)));
  return (
    <section className="mt-7">
      <h3 className="text-[17px] font-semibold">From the bars on the bench</h3>
      {used.map((plan) => (
        <div key={`${plan.metal} ${plan.stock}`} className="mt-2">
          <p className="text-[14px] text-quiet">
            {plan.metal}, {plan.stock}: <span className="figures">{sayLength(plan.left_mm, units, 1)}</span>{" "}
            left
            {plan.proven ? ", as little as can be opened" : ", perhaps not the least"}
          </p>
          {keyed(plan.bars).map(({ key, one: bar }) => (
            <div
              key={key}
              className="mt-1 flex h-8 border border-quiet bg-sunk"
              style={{ width: `${String((100 * bar.length_mm) / longest)}%` }}
            >
              {keyed(bar.cuts).map(({ key: cut, one: [name, length] }) => (
                <Tip key={cut} words={`${name}, ${sayLength(length, units)}`}>
                  <span
                    className="flex min-w-0 items-center overflow-hidden border-r-2 border-accent bg-raised px-1 text-[13px] whitespace-nowrap"
                    style={{ width: `${String((100 * length) / bar.length_mm)}%` }}
                  >
                    <span className="truncate">
                      {name}{" "}
                      <span className="figures text-quiet">
                        {bareLength(Number(length.toFixed(2)), units)}
                      </span>
                    </span>
                  </span>
                </Tip>
              ))}
            </div>
          ))}
        </div>
      ))}
    </section>
  );
}
