/** What can be done at a step, by key and by touch: on, back, skip, stop, again, and how each join came out. */
import { useRef, useState } from "react";
import type { OutcomeWord, RunView } from "../api/types";
import type { RunHere } from "../happened/follow";
import { LIT } from "../happened/written";
import { useKeys } from "../shell/keys";
import {
  byNumber,
  cameOut,
  doneAgain,
  isBurning,
  lookedOver,
  lookingOf,
  openedNow,
  sentBack,
  signed,
  takenBack,
} from "./doings";
import { useAtTorch } from "./kept";
import type { Press } from "./useRunHere";
import { openedOf, outcomeFor, recordAt } from "./words";

type Way = RunView["ways"][number]["way"];
export type Doing = ReturnType<typeof useDoing>;

export function useDoing({ view: run, turn: { id: turn, ...written } }: RunHere, press: Press) {
  const act = useOnce(press);
  const [noting, setNoting] = useState(false);
  const [otherwise, setOtherwise] = useState("");
  const { step, flame } = run;
  const said = new Map((recordAt(run)?.outcomes ?? []).map((outcome) => [outcome.join, outcome.words]));
  const left = step.kind === "heat" ? step.joins.filter((row) => !said.has(row.join)) : [];
  const [open] = left;
  // A heat asks how it came out after the last of its signs, or when it went otherwise.
  const sign = flame && open && otherwise !== turn && said.size === 0 ? flame.next : null;
  const asked = useOpened(run, turn, act);
  const opened = open ? null : asked;
  // The flame of a heat without signs is put out before it is asked how that came out.
  const putOut = sign === null && open !== undefined && otherwise !== turn && isBurning(step, written);
  const looking = lookingOf(run, turn, written.looks, act);

  const onward = () =>
    act({ kind: "next", turn, confirmed: step.kind === "prepare" && step.confirm === true });
  const see = () => act(...signed(run, turn, sign ?? LIT));
  const skip = () => act({ kind: "next", turn, skipped: true });
  const stop = () => act({ kind: "stop", turn });
  const say = (word: OutcomeWord) => open && act(cameOut(turn, open.join, word.outcome));
  const sayAll = () => act(...left.map(({ join }) => cameOut(turn, join, "flowed")));
  const again = (way: Way) => act(doneAgain(run, turn, way));
  const sent = (heat: number) => act(sentBack(run, turn, heat));
  const back = () => {
    if (otherwise === turn && said.size === 0) return setOtherwise("");
    void act(...takenBack(turn, written));
  };
  const out = () => act({ kind: "off", turn });
  const flowed = () => say(outcomeFor(run.words, "space"));
  const unasked = open ? flowed : (opened?.unknown ?? onward);
  const next = looking?.pass ?? (putOut ? out : sign !== null ? see : unasked);

  // Once every join is answered for, what fits what went wrong has the keys of the outcomes; so at a look that does not pass.
  const { passes, asItIs } = lookedOver(run, written.looks);
  const ways = run.ways.map((one) => () => again(one.way));
  const tries = passes ? [] : [...ways, ...run.back_to.map((one) => () => sent(one.heat_no))];
  const saying = run.words.map((word) => [word.key, () => say(word)] as const);
  const offered = left.length > 1 ? [...saying, ["a", sayAll] as const] : saying;
  const keyed = looking?.keyed ?? opened?.keyed ?? Object.fromEntries(open ? offered : byNumber(tries));
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
    sayAll,
    left,
    again,
    sent,
    back,
    stop,
    wrong,
    open,
    said,
    sign,
    looking,
    putOut,
    opened,
    passes,
    asItIs,
    noting,
    setNoting,
  };
}

/** Which join has opened: asked where that is said, and not yet of which. */
function useOpened(run: RunView, turn: string, act: Press) {
  const [unknown, setUnknown] = useState("");
  const joins = unknown === turn ? [] : openedOf(run);
  if (joins.length === 0) return null;
  const say = (join: string) => void act(openedNow(run, join));
  const keyed = Object.fromEntries(
    byNumber(
      joins.map(
        ({ join }) =>
          () =>
            say(join),
      ),
    ),
  );
  return { joins, say, unknown: () => setUnknown(turn), keyed };
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
