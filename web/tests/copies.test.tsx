// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { OutcomeWord, Picture } from "../src/api/types";
import type { JoinWord } from "../src/happened/events";
import { Copies } from "../src/run/Copies";
import { chosen, copiesLeft, entered, NO_TICKS, sayCopies, typeDigit } from "../src/run/copies";
import { useCopies } from "../src/run/useCopies";
import { useKeys } from "../src/shell/keys";

afterEach(cleanup);

const SHORT: OutcomeWord = { outcome: "short", words: "Short: a gap left", key: "2", sound: false };
const PICTURE = { parts: [], joins: [] } as unknown as Picture;
const upTo = (most: number) => Array.from({ length: most }, (_, n) => n + 1);
const word = (copies: number[], join = "pins"): JoinWord => ({
  join,
  copies,
  outcome: "flowed",
  at_ms: 0,
  event: "e",
});

describe("which of many alike", () => {
  it.each<[string, JoinWord[], number, number[]]>([
    ["nothing is said", [], 4, [1, 2, 3, 4]],
    ["of all of them", [word([])], 4, []],
    ["of two of them", [word([2]), word([4])], 4, [1, 3]],
    ["of another join", [word([], "rim")], 2, [1, 2]],
  ])("waits for its word: %s", (_, words, alike, left) => {
    expect(copiesLeft(words, "pins", alike)).toEqual(left);
  });

  it.each<[string, number, number[]]>([
    // Of nine or fewer each digit is a copy; of more, a digit that may go on waits for the next, or for Enter.
    ["25", 6, [2, 5]],
    ["22", 6, []],
    ["7", 6, []],
    ["0", 6, []],
    ["12", 24, [12]],
    ["1", 24, [1]],
    ["3", 24, [3]],
    ["1203", 24, [12, 3]],
    ["29", 24, []],
  ])("typed %s of %i", (typed, most, ticked) => {
    const left = upTo(most);
    const ticks = [...typed].reduce((known, digit) => typeDigit(known, digit, left), NO_TICKS);
    expect(chosen(entered(ticks, left), left)).toEqual(ticked.toSorted((a, b) => a - b));
  });

  it("leaves alone what has its word", () => {
    expect(typeDigit(NO_TICKS, "2", [1, 3]).ticked).toEqual([]);
  });

  it.each<[number[], string]>([
    [[2], "2"],
    [[3, 1], "1 and 3"],
    [[1, 2], "1 and 2"],
    [[1, 2, 3, 4, 7], "1 to 4 and 7"],
    [[1, 3, 5, 6, 7], "1, 3 and 5 to 7"],
  ])("says %j as %s", (copies, said) => {
    expect(sayCopies(copies)).toBe(said);
  });
});

function Host({ say, left }: { say: (word: OutcomeWord, copies: number[]) => void; left: number[] }) {
  const { begin, choosing } = useCopies({ join: "pins", title: "Pins", alike: 6, left }, say);
  useKeys({}, { offered: choosing?.keyed ?? { "2": () => begin(SHORT) } });
  return choosing ? <Copies title="Pins" picture={PICTURE} choosing={choosing} /> : <p>asked</p>;
}

describe("a word, and then of which", () => {
  it.each<[string, number[]]>([
    ["2{2}{5}{Enter}", [2, 5]],
    ["2a", []],
    ["2-{3}{Enter}", [1, 2, 4, 5, 6]],
    ["2-{Enter}", []],
  ])("by the keys %s", async (keys, copies) => {
    const say = vi.fn();
    render(<Host say={say} left={upTo(6)} />);
    await userEvent.keyboard(keys);
    expect(say.mock.calls).toEqual([[SHORT, copies]]);
  });

  it("says nothing while nothing is ticked, and takes another word", async () => {
    const say = vi.fn();
    render(<Host say={say} left={upTo(6)} />);
    await userEvent.keyboard("2{Enter}");
    expect(say).not.toHaveBeenCalled();
    expect(screen.getByRole("group", { name: /Of which of Pins/ })).toBeTruthy();
    await userEvent.keyboard("{Backspace}");
    expect(screen.getByText("asked")).toBeTruthy();
  });

  it("is ticked by touch; those that have their word cannot be", async () => {
    const say = vi.fn();
    render(<Host say={say} left={[1, 4, 6]} />);
    await userEvent.keyboard("2");
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Copy 2" }).disabled).toBe(true);
    await userEvent.click(screen.getByRole("button", { name: "Copy 4" }));
    expect(screen.getByRole("button", { name: "Copy 4" }).getAttribute("aria-pressed")).toBe("true");
    await userEvent.keyboard("{Enter}");
    expect(say.mock.calls).toEqual([[SHORT, [4]]]);
  });

  it("asks nothing more where a single copy is left", async () => {
    const say = vi.fn();
    render(<Host say={say} left={[3]} />);
    await userEvent.keyboard("2");
    expect(say.mock.calls).toEqual([[SHORT, [3]]]);
  });
});
