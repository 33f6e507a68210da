import { useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { useState } from "react";
import { markMaking, putMakingAway, useMaking } from "../api/queries";
import type { MakingView } from "../api/types";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { keyed } from "../parts/keyed";
import { sayLength } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import { ActionKey } from "../shell/ActionKey";
import { useKeys } from "../shell/keys";

/** A draw-down at the mill: the pass that is next, as large as can be, and each one marked off by the space bar. */
export function MakingPage() {
  const { making } = useParams({ from: "/mill/$making" });
  const asked = useMaking(Number(making));
  const told = asked.data;
  if (asked.error)
    return (
      <div className="p-8">
        <FaultList error={asked.error} />
      </div>
    );
  return told ? <Opened making={told} /> : <p className="p-8 text-quiet">Opening…</p>;
}

function Opened({ making }: { making: MakingView }) {
  const cache = useQueryClient();
  const [error, setError] = useState<unknown>(null);
  const take = async (asked: Promise<MakingView>) => {
    try {
      cache.setQueryData(["making", making.id], await asked);
      void cache.invalidateQueries({ queryKey: ["makings"] });
      setError(null);
    } catch (problem) {
      setError(problem);
      void cache.invalidateQueries({ queryKey: ["making", making.id] });
    }
  };
  const over = making.done >= making.steps.length;
  const on = () => void take(markMaking(making, making.done + 1));
  const back = () => void take(markMaking(making, making.done - 1));
  useKeys(
    { "making.done": over ? undefined : on, "making.back": making.done > 0 ? back : undefined },
    { spaceIsOurs: true },
  );
  const next = making.steps[making.done];
  return (
    <div className="flex h-full flex-col px-7 py-5">
      <header className="flex items-center gap-5 text-[17px]">
        <b className="font-semibold">{making.title}</b>
        <span className="figures text-quiet">
          {making.done} of {making.steps.length} done
        </span>
        <Link to="/sizes/$name" params={{ name: "draw-down" }} className="ml-auto text-accent underline">
          Back to Sizes
        </Link>
        {over && (
          <Button look="bare" onClick={() => void take(putMakingAway(making.id, !making.put_away))}>
            {making.put_away ? "Take it out again" : "Put away"}
          </Button>
        )}
      </header>
      <div className="mt-6 grid min-h-0 flex-1 grid-cols-[1fr_340px] gap-10">
        <div>
          <FaultList error={error} />
          {next ? <Next step={next} /> : <p className="text-[44px] font-semibold">The wire is drawn.</p>}
          <p className="mt-8 border-l-[3px] border-warn-line pl-3 text-[17px] text-quiet">
            Dry, cool and straight into the rollers; fingers off them. A wet piece rusts the mill.
          </p>
          <div className="mt-8 flex items-center gap-4">
            <Button look="main" className="min-h-16 px-8 text-[20px]" disabled={over} onClick={on}>
              Done <ActionKey plain of="making.done" />
            </Button>
            <Button className="min-h-16 px-6 text-[18px]" disabled={making.done === 0} onClick={back}>
              Take back <ActionKey of="making.back" />
            </Button>
          </div>
        </div>
        <Steps making={making} />
      </div>
    </div>
  );
}

type Step = MakingView["steps"][number];

function Next({ step }: { step: Step }) {
  const units = useUnits();
  return (
    <div aria-live="polite">
      <p className="text-[18px] text-quiet">{step.kind === "anneal" ? "First" : "Next pass"}</p>
      <p className="text-[52px] leading-tight font-bold" data-testid="next-pass">
        {step.text}
      </p>
      {step.length_mm != null && (
        <p className="mt-2 text-[20px] text-quiet">
          then <span className="figures text-ink">{sayLength(step.length_mm, units, 0)}</span> long,{" "}
          <span className="figures">{step.reduction_since_anneal_pct.toFixed(0)} %</span> since its last
          anneal
        </p>
      )}
    </div>
  );
}

function Steps({ making }: { making: MakingView }) {
  return (
    <ol aria-label="Passes" className="relative overflow-y-auto border-t border-hair text-[16px]">
      {keyed(making.steps).map(({ key, one: step, at: n }) => (
        <li
          key={key}
          aria-current={n === making.done ? "step" : undefined}
          className={`flex gap-3 border-b border-hair py-1 ${n < making.done ? "text-quiet line-through" : ""} ${n === making.done ? "font-bold" : ""} ${step.kind === "anneal" ? "text-accent" : ""}`}
        >
          <span className="figures w-6 text-right">{n + 1}</span>
          {step.text}
        </li>
      ))}
    </ol>
  );
}
