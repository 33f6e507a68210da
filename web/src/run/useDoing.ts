/** What can be done at a step, by key and by touch: on, back, skip, stop, again, and how each join came out. */
import { useEffect, useRef, useState } from "react";
import type { OfferView, RunView } from "../api/types";
import type { RunHere } from "../happened/follow";
import { LIT } from "../happened/written";
import { useKeys } from "../shell/keys";
import {
  allWell,
  byNumber,
  cameOut,
  isBurning,
  isShut,
  isWrong,
  lookingOf,
  openedNow,
  openOf,
  sentBack,
  signed,
  taken,
  takenBack,
} from "./doings";
import { useAtTorch } from "./kept";
import { useCopies } from "./useCopies";
import { useNever, useOffers } from "./useOffers";
import type { Know, Press } from "./useRunHere";
import { openedOf, recordAt } from "./words";

export type Doing = ReturnType<typeof useDoing>;

export function useDoing(here: RunHere, press: Press, know: Know, early = 0) {
  const { view: run, turn: at, words } = here;
  const { id: turn, ...written } = at;
  const act = useOnce(press);
  const [noting, setNoting] = useState(false);
  const [otherwise, setOtherwise] = useState("");
  const { step, flame } = run;
  const said = new Map((recordAt(run)?.outcomes ?? []).map((outcome) => [outcome.join, outcome.words]));
  const asking = useAsking(here, act);
  const { open, choosing } = asking;
  // A heat asks how it came out after the last of its signs, or when it went otherwise.
  const sign = flame && open && otherwise !== turn && said.size === 0 ? flame.next : null;
  const asked = useOpened(run, turn, written.opened.length, act);
  const opened = open ? null : asked;
  // The flame of a heat without signs is put out before it is asked how that came out.
  const putOut = sign === null && open !== undefined && otherwise !== turn && isBurning(step, written);
  const looking = lookingOf(run, turn, written.looks, act);

  const onward = () =>
    act({ kind: "next", turn, confirmed: step.kind === "prepare" && step.confirm === true });
  const see = () => act(...signed(run, turn, sign ?? LIT));
  const skip = () => act({ kind: "next", turn, skipped: true });
  const stop = () => act({ kind: "stop", turn });
  const sent = (heat: number) => act(sentBack(run, turn, heat));
  const isBad = !open && !opened && !looking && isWrong(run, at, words);
  const mending = useMending(here, isBad, act, know, onward);
  const { wrong } = mending;
  const back = () => {
    if (choosing) return choosing.close();
    if (otherwise === turn && said.size === 0) return setOtherwise("");
    void act(...takenBack(turn, written));
  };
  // The wide key never takes what went wrong as it is, and says nothing of how a heat came out.
  const shut = isShut(step, early);
  const on = open || opened || wrong || shut ? undefined : onward;
  const goes = looking?.pass ?? (putOut ? () => act({ kind: "off", turn }) : sign !== null ? see : on);
  const { never, next } = useOnceKnown(here, goes);

  // Once all is answered for, what can be done about what went wrong has the keys of the outcomes.
  const backs = isOld(step) ? run.back_to.map((one) => () => void sent(one.heat_no)) : [];
  const keyed =
    looking?.keyed ??
    opened?.keyed ??
    asking.keyed ??
    Object.fromEntries(byNumber(wrong ? mending.tries : backs));
  const { pedal } = useAtTorch();
  const some = written.signs.length + written.looks.length + said.size > 0;
  useKeys(
    {
      "run.next": next ?? nothing,
      "run.back": run.position > 1 || some ? back : undefined,
      "run.note": () => setNoting(true),
      "run.skip": shut ? undefined : skip,
      "run.close": () => setNoting(false),
    },
    { spaceIsOurs: true, offered: pedal === null ? keyed : { ...keyed, [pedal]: next ?? nothing } },
  );
  return {
    next: next ?? nothing,
    skip: shut ? undefined : skip,
    words,
    ...asking,
    ...mending,
    never,
    onward,
    sent,
    back,
    stop,
    wentWrong: () => setOtherwise(turn),
    said,
    sign,
    looking,
    putOut,
    opened,
    noting,
    setNoting,
  };
}

const nothing = () => {};

/** Go on once it is known that the step may be done: a press that comes before the answer is held, and done with it. */
function useOnceKnown(here: RunHere, goes: (() => unknown) | undefined) {
  const { never, waiting } = useNever(here);
  const [held, setHeld] = useState("");
  const { id } = here.turn;
  const free = !waiting && never.length === 0;
  const go = useRef(goes);
  go.current = goes;
  useEffect(() => {
    if (held === "" || waiting) return;
    setHeld("");
    if (held === id && free) go.current?.();
  }, [held, waiting, id, free]);
  return { never, next: waiting && goes ? () => setHeld(id) : free ? goes : undefined };
}

/** What is asked of a heat that is over: how each came out, and of many alike which. */
function useAsking({ view: run, turn: at, work, words }: RunHere, act: Press) {
  const left = openOf(run, at, work);
  const [open] = left;
  const { begin: say, choosing } = useCopies(open, (word, copies) => {
    if (open) void act(cameOut(at.id, open.join, word.outcome, copies));
  });
  const sayAll = () => act(...left.map((one) => allWell(at.id, one, words)));
  const saying = words.map((word) => [word.key, () => say(word)] as const);
  const many = left.length > 1 || (open?.left.length ?? 0) > 1;
  const asked = open && Object.fromEntries(many ? [...saying, ["a", sayAll] as const] : saying);
  return { left, open, say, choosing, sayAll, keyed: choosing?.keyed ?? asked };
}

/** What can be done where something went wrong, and how it is taken: each way by its steps, or left as it is. */
function useMending(here: RunHere, wrong: boolean, act: Press, know: Know, onward: () => Promise<void>) {
  const { offers: all, known, waiting } = useOffers(here, wrong);
  const take = async (offer: OfferView) => {
    if (offer.way === "as-it-is") return onward();
    if (known) await know(known);
    return act(taken(here.view.turn, offer));
  };
  const offers = all.filter(({ way }) => way !== "rest");
  const none = wrong && !waiting && offers.length === 0;
  const tries = none ? [() => void onward()] : offers.map((one) => () => void take(one));
  return { wrong, take, offers, waiting, none, tries };
}

/** Whether a look is of a plan from before there were checks: it sends back to its heats. */
export const isOld = (step: RunView["step"]): boolean => step.kind === "inspect" && step.checks.length === 0;

/** Which join has opened: asked where that is said, and not yet of which. */
function useOpened(run: RunView, turn: string, known: number, act: Press) {
  const [unknown, setUnknown] = useState("");
  const joins = unknown === turn ? [] : openedOf(run, known);
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
