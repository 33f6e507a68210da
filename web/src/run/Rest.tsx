/** What is left of a run, planned anew from the piece as it was made: what is otherwise is told, and the run goes on by the new plan. */
import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { AS_IT_RAN, beginFromRun, goOnFrom, useRest } from "../api/queries";
import type { RestOtherwise, RestView } from "../api/types";
import type { RunHere } from "../happened/follow";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { Closing, Panel } from "../parts/Panel";
import { sayMinutes } from "../parts/words";
import { ActionKey } from "../shell/ActionKey";
import { useKeys } from "../shell/keys";
import { AsItIs } from "./AsItIs";

export function Rest({ here, className }: { here: RunHere; className?: string }) {
  const [open, setOpen] = useState(false);
  const [otherwise, setOtherwise] = useState(AS_IT_RAN);
  useKeys({ "run.rest": () => setOpen(true) });
  const told = here.unsent === 0 && !here.away;
  return (
    <Panel
      title="What is left, planned anew"
      width="widest"
      open={open}
      onOpen={(now) => {
        setOpen(now);
        setOtherwise(AS_IT_RAN);
      }}
      trigger={
        <button type="button" className={className}>
          Plan the rest <ActionKey of="run.rest" />
        </button>
      }
    >
      {told ? (
        <Left run={here.view.id} otherwise={otherwise} onOtherwise={setOtherwise} />
      ) : (
        <p role="alert" className="mt-4 text-[19px] text-warn">
          Eskel does not answer, and it is Eskel that plans. Go on as you are, or wait until it does.
        </p>
      )}
    </Panel>
  );
}

type LeftProps = {
  run: number;
  otherwise: RestOtherwise;
  onOtherwise: (otherwise: RestOtherwise) => void;
};

function Left({ run, otherwise, onOtherwise }: LeftProps) {
  const go = useNavigate();
  const cache = useQueryClient();
  const { data: rest, error, isFetching } = useRest(run, otherwise, true);
  const [refused, setRefused] = useState<unknown>(null);
  const attempt = async (work: () => Promise<void>) => {
    setRefused(null);
    await work().catch(setRefused);
  };
  const onward = (view: RestView) =>
    attempt(async () => {
      const next = await goOnFrom(run, view.turn, otherwise, view.stops);
      for (const known of ["rail", "run", "kin", "log"]) void cache.invalidateQueries({ queryKey: [known] });
      await go({ to: "/run/$run", params: { run: String(next.id) } });
    });
  const asPiece = () =>
    attempt(async () => {
      const piece = await beginFromRun(run, otherwise);
      await go({ to: "/work/$piece", params: { piece: String(piece.id) } });
    });
  if (!rest) return error ? <FaultList error={error} /> : <p className="mt-4 text-quiet">Planning …</p>;
  return (
    <div className="mt-3 grid gap-x-10 gap-y-4 lg:grid-cols-[3fr_2fr]">
      <AsItIs rest={rest} otherwise={otherwise} onOtherwise={onOtherwise} />
      <section
        aria-label="The new plan"
        className={`lg:sticky lg:top-0 lg:self-start ${isFetching ? "opacity-50" : ""}`}
        aria-busy={isFetching}
      >
        <Ahead rest={rest} />
        <FaultList error={refused ?? error} />
        <div className="mt-4 grid gap-3">
          <Button
            look="main"
            className="min-h-16 text-[19px]"
            disabled={isFetching || error !== null || rest.heats.length + rest.steps === 0}
            onClick={() => void onward(rest)}
          >
            {rest.stops.length > 0 ? "I have read it: go on by this plan" : "Go on by this plan"}
          </Button>
          <div className="flex flex-wrap justify-between gap-3">
            <Button look="bare" className="min-h-14" disabled={isFetching} onClick={() => void asPiece()}>
              Keep it as a piece of its own
            </Button>
            <Closing>
              <Button className="min-h-14">Leave it as it was planned</Button>
            </Closing>
          </div>
        </div>
      </section>
    </div>
  );
}

/** The heats of the new plan, or why there is none. */
function Ahead({ rest }: { rest: RestView }) {
  if (rest.why_not.length > 0)
    return (
      <div role="alert" className="text-[18px]">
        <p className="text-[22px] font-semibold text-warn">So it cannot be made. These do not go together:</p>
        <ul className="mt-2 list-disc space-y-1 pl-6">
          {rest.why_not.map((why) => (
            <li key={why}>{why}</li>
          ))}
        </ul>
      </div>
    );
  if (rest.steps === 0)
    return <p className="text-[22px] font-semibold">Nothing is left to be done: all of it is there.</p>;
  return (
    <>
      <p className="text-[22px] font-semibold">
        {rest.heats.length === 1 ? "One heat" : `${String(rest.heats.length)} heats`} to come,{" "}
        <span className="figures">{sayMinutes(rest.minutes)}</span> in all
      </p>
      <ol className="mt-2 border-t border-hair text-[18px]">
        {rest.heats.map((heat) => (
          <li key={heat.heat_no} className="flex gap-4 border-b border-hair py-2">
            <span className="figures w-6 text-quiet">{heat.heat_no}</span>
            <span className="min-w-0 flex-1">{heat.title}</span>
            <b className="font-semibold">{heat.named}</b>
          </li>
        ))}
      </ol>
      {[...rest.stops, ...rest.dangers].map((one) => (
        <p key={`${one.code} ${String(one.step)}`} className="mt-2 text-[17px] text-warn">
          {one.text} {one.remedy}.
        </p>
      ))}
    </>
  );
}
