/** What can be done at a step, by key and by touch: on, back, skip, stop, again, and how each join came out. */
import { useRef, useState } from "react";
import type { OutcomeWord, RunView } from "../api/types";
import type { RunHere } from "../happened/follow";
import { LIT } from "../happened/written";
import { useKeys } from "../shell/keys";
import { doneAgain, lookingOf, sentBack } from "./doings";
import { useAtTorch } from "./kept";
import type { Press } from "./useRunHere";
import { outcomeFor, recordAt } from "./words";

type Way = RunView["ways"][number]["way"];
export type Doing = ReturnType<typeof useDoing>;

export function useDoing({ view: run, turn: { id: turn, ...written } }: RunHere, press: Press) {
  const act = useOnce(press);
  const [noting, setNoting] = useState(false);
  const [otherwise, setOtherwise] = useState("");
  const { step, flame } = run;
  const said = new Map((recordAt(run)?.outcomes ?? []).map((outcome) => [outcome.join, outcome.words]));
  const open = step.kind === "heat" ? step.joins.find((row) => !said.has(row.join)) : undefined;
  // A heat asks how it came out after the last of its signs, or when it went otherwise.
  const sign = flame && open && otherwise !== turn && said.size === 0 ? flame.next : null;
  const looking = lookingOf(run, turn, written.looks, act);

  const onward = () =>
    act({ kind: "next", turn, confirmed: step.kind === "prepare" && step.confirm === true });
  const see = () => act(sign === LIT ? { kind: "lit", turn } : { kind: "sign", turn, stage: sign ?? 0 });
  const skip = () => act({ kind: "next", turn, skipped: true });
  const stop = () => act({ kind: "stop", turn });
  const say = ({ outcome }: OutcomeWord) =>
    open && act({ kind: "outcome", turn, join: open.join, outcome: outcome as never });
  const again = (way: Way) => act(doneAgain(run, turn, way));
  const sent = (heat: number) => act(sentBack(run, turn, heat));
  const back = () => {
    if (otherwise === turn && said.size === 0) return setOtherwise("");
    const last = written.outcomes.at(-1) ?? written.signs.at(-1) ?? written.looks.at(-1);
    act(last ? { kind: "undo", of: last.event } : { kind: "back", turn });
  };
  const next = looking
    ? looking.pass
    : sign !== null
      ? see
      : open
        ? () => say(outcomeFor(run.words, "space"))
        : onward;

  // Once every join is answered for, what fits what went wrong has the keys of the outcomes; so at a look that does not pass.
  const passes =
    step.kind === "inspect" && step.checks.length > 0 && written.looks.every((one) => one.passes);
  const asItIs = step.kind === "inspect" ? written.looks.some((one) => !one.passes) : run.ways.length > 0;
  const ways = run.ways.map((one) => () => again(one.way));
  const tries = passes ? [] : [...ways, ...run.back_to.map((one) => () => sent(one.heat_no))];
  const keyed: Record<string, () => void> =
    looking?.keyed ??
    Object.fromEntries(
      open
        ? run.words.map((word) => [word.key, () => say(word)])
        : tries.map((tried, n) => [String(n + 2), tried]),
    );
  const { pedal } = useAtTorch();
  const some = written.signs.length + written.looks.length + said.size > 0;
  useKeys(
    {
      "run.next": next,
      "run.back": run.position > 1 || some ? back : undefined,
      "run.note": () => setNoting(true),
      "run.skip": skip,
      "run.close": () => setNoting(false),
    },
    { spaceIsOurs: true, offered: pedal === null ? keyed : { ...keyed, [pedal]: next } },
  );
  const wrong = () => setOtherwise(turn);
  return {
    next,
    skip,
    say,
    again,
    sent,
    back,
    stop,
    wrong,
    open,
    said,
    sign,
    looking,
    passes,
    asItIs,
    noting,
    setNoting,
  };
}

/** Write one thing down at a time: a key pressed twice, before the first press is on the screen, counts once. */
function useOnce(press: Press): Press {
  const busy = useRef(false);
  return async (...said) => {
    if (busy.current) return;
    busy.current = true;
    await press(...said).finally(() => {
      busy.current = false;
    });
  };
}
