/** Of many alike a word is said first, and then of which copies: by digits and Enter, all, or all but. */
import { useState } from "react";
import type { OutcomeWord } from "../api/types";
import { chosen, entered, NO_TICKS, type Ticks, tick, typeDigit } from "./copies";

/** What is asked of a heat: a join or its work, how many are alike, and those that wait for their word. */
export type Open = { join: string; title: string; alike: number; left: number[] };

export type Choosing = {
  word: OutcomeWord;
  ticks: Ticks;
  left: number[];
  alike: number;
  tick: (copy: number) => void;
  all: () => void;
  allBut: () => void;
  these: () => void;
  close: () => void;
  keyed: Record<string, () => void>;
};

export function useCopies(open: Open | undefined, say: (word: OutcomeWord, copies: number[]) => void) {
  const [asked, setAsked] = useState<{ of: string; word: OutcomeWord; ticks: Ticks } | null>(null);
  const of = open ? `${open.join} ${open.left.join()}` : "";
  const begin = (word: OutcomeWord) => {
    if (!open) return;
    const { alike, left } = open;
    // Where no more than a single copy waits there is nothing to choose.
    if (left.length > 1) setAsked({ of, word, ticks: NO_TICKS });
    else say(word, left.length === alike ? [] : left);
  };
  const at = open && asked?.of === of ? asked : null;
  return {
    begin,
    choosing: at && open ? choosingOf(open, at, (ticks) => setAsked(ticks && { ...at, ticks }), say) : null,
  };
}

function choosingOf(
  { left, alike }: Open,
  { word, ticks }: { word: OutcomeWord; ticks: Ticks },
  change: (ticks: Ticks | null) => void,
  say: (word: OutcomeWord, copies: number[]) => void,
): Choosing {
  const done = (copies: number[]) => {
    change(null);
    say(word, copies.length === alike ? [] : copies);
  };
  const these = () => {
    const now = entered(ticks, left);
    if (ticks.typed !== "") return change(now);
    const copies = chosen(now, left);
    // Nothing ticked says nothing; all but nothing is all.
    if (copies.length > 0) done(copies);
  };
  const all = () => done(left);
  const allBut = () => change({ ...entered(ticks, left), but: !ticks.but });
  const close = () => change(null);
  const digits = Array.from({ length: 10 }, (_, n) => String(n)).map(
    (digit) => [digit, () => change(typeDigit(ticks, digit, left))] as const,
  );
  const keyed = { ...Object.fromEntries(digits), a: all, "-": allBut, enter: these, backspace: close };
  return {
    word,
    ticks,
    left,
    alike,
    tick: (copy) => change(tick(ticks, copy, left)),
    all,
    allBut,
    these,
    close,
    keyed,
  };
}
