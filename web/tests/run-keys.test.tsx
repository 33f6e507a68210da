// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { BenchView, RunView } from "../src/api/types";
import { LengthField } from "../src/parts/LengthField";
import { METRIC } from "../src/parts/units";
import { signed, takenBack } from "../src/run/doings";
import { Onward, Outcomes } from "../src/run/StepKeys";
import { useKeys } from "../src/shell/keys";

afterEach(cleanup);

const WORDS: RunView["words"] = [
  { outcome: "flowed", words: "Flowed all along", key: "1", sound: true },
  { outcome: "short", words: "Short: a gap left", key: "2", sound: false },
];

const RIM = { join: "rim", title: "Rim", alike: 1, left: [1] };

describe("what a heat is left by", () => {
  it("asks how the join came out, and says it by a touch", async () => {
    const say = vi.fn();
    const all = vi.fn();
    render(<Outcomes words={WORDS} open={RIM} left={[RIM, RIM, RIM]} onSay={say} onAll={all} />);
    await waitFor(() => expect(screen.getByRole("group", { name: "How did Rim come out?" })).toBeTruthy());
    await userEvent.click(screen.getByRole("button", { name: /gap left/ }));
    expect(say).toHaveBeenCalledWith(WORDS[1]);
    await userEvent.click(screen.getByRole("button", { name: /All 3 flowed/ }));
    expect(all).toHaveBeenCalledOnce();
  });

  it("of a single join has no word for all", () => {
    render(<Outcomes words={WORDS} open={RIM} left={[RIM]} onSay={() => {}} onAll={() => {}} />);
    expect(screen.getAllByRole("button")).toHaveLength(WORDS.length);
  });

  it.each([
    [{ kind: "cool" }, 2, "It is cold"],
    [{ kind: "pickle" }, 2, "It is out"],
    [{ kind: "prepare", confirm: true }, 2, "I have read it"],
    [{ kind: "work" }, 3, "Done"],
    [{ kind: "work" }, 2, "Next"],
  ])("%j at %i: %s", (step, position, words) => {
    const run = { step, position, steps: ["a", "b", "c"], next_text: "Look" } as unknown as RunView;
    const nothing = () => {};
    render(
      <Onward run={run} said={[]} onNext={nothing} onBack={nothing} onNote={nothing} onSkip={nothing} />,
    );
    expect(screen.getByText(words)).toBeTruthy();
  });
});

describe("what is taken out before its time", () => {
  it.each([
    ["pickle", "Out before its time", "2:10 too early: evenly pale? else back in"],
    ["cool", "It is cold already", "2:10 too early: no red left? it stays hot long after"],
  ])("of %s says so, and at what to look", (kind, words, beside) => {
    const run = {
      step: { kind },
      position: 2,
      steps: ["a", "b", "c"],
      next_text: "Look",
    } as unknown as RunView;
    const nothing = () => {};
    const keys = { onNext: nothing, onBack: nothing, onNote: nothing, onSkip: nothing };
    render(<Onward run={run} said={[]} early={130} {...keys} />);
    expect(screen.getByText(words)).toBeTruthy();
    expect(screen.getByText(beside)).toBeTruthy();
  });
});

function Listening({ onKey }: { onKey: (name: string) => void }) {
  useKeys({ "run.next": () => onKey("space"), "run.back": () => onKey("b") }, { spaceIsOurs: true });
  return (
    <>
      <input aria-label="Note" />
      <button type="button">Other</button>
    </>
  );
}

describe("keys", () => {
  it("act while nobody types, and are letters while somebody does", () => {
    const heard = vi.fn();
    render(<Listening onKey={heard} />);
    fireEvent.keyDown(document.body, { key: " " });
    fireEvent.keyDown(screen.getByRole("button"), { key: " " });
    fireEvent.keyDown(screen.getByLabelText("Note"), { key: "b" });
    fireEvent.keyDown(document.body, { key: "b", repeat: true });
    fireEvent.keyDown(document.body, { key: "b", altKey: true });
    expect(heard.mock.calls).toEqual([["space"], ["space"]]);
  });
});

describe("a length in a field", () => {
  function field(mm: number, onCommit: (mm: number) => void, house = METRIC) {
    const cache = new QueryClient();
    cache.setQueryData(["bench"], { house } as unknown as BenchView);
    cache.setDefaultOptions({ queries: { staleTime: Number.POSITIVE_INFINITY } });
    render(
      <QueryClientProvider client={cache}>
        <LengthField label="Side" mm={mm} onCommit={onCommit} />
      </QueryClientProvider>,
    );
    return screen.getByLabelText<HTMLInputElement>("Side");
  }

  it("is understood at each key and told when it is left, with no request", async () => {
    const fetched = vi.spyOn(globalThis, "fetch");
    const told = vi.fn();
    const input = field(1.1, told);
    await userEvent.clear(input);
    await userEvent.type(input, "15 ga");
    await waitFor(() => expect(screen.getByText("15 gauge (B&S) = 1.450 mm = 0.05707 in")).toBeTruthy());
    expect(told).not.toHaveBeenCalled();
    await userEvent.tab();
    expect(told).toHaveBeenCalledWith(1.45);
    expect(fetched).not.toHaveBeenCalled();
  });

  it("keeps what it does not understand, and says why", async () => {
    const told = vi.fn();
    const input = field(1.1, told);
    await userEvent.clear(input);
    await userEvent.type(input, "thick{Enter}");
    expect(input.value).toBe("thick");
    expect(input.getAttribute("aria-invalid")).toBe("true");
    await waitFor(() => expect(screen.getByText(/a length is a number/)).toBeTruthy());
    expect(told).not.toHaveBeenCalled();
    await userEvent.type(input, "{Escape}");
    expect(input.value).toBe("1.1");
  });

  it("takes a bare number in the unit of the house", async () => {
    const told = vi.fn();
    const input = field(25.4, told, { ...METRIC, units: "inch" });
    expect(input.value).toBe("1");
    await userEvent.clear(input);
    await userEvent.type(input, "1/2{Enter}");
    expect(told).toHaveBeenCalledWith(12.7);
  });
});

describe("a sign that is pressed", () => {
  const run = { step: { kind: "heat", stages: [{}, {}] } } as unknown as RunView;

  it.each([
    [0, [{ kind: "lit", turn: "4" }]],
    [1, [{ kind: "sign", turn: "4", stage: 1 }]],
    [
      2,
      [
        { kind: "sign", turn: "4", stage: 2 },
        { kind: "off", turn: "4" },
      ],
    ],
  ])("of stage %i puts the flame out where it is the last", (stage, says) => {
    expect(signed(run, "4", stage)).toEqual(says);
  });

  const NOTHING = { outcomes: [], opened: [], signs: [], looks: [], off: null };
  const LIT = { stage: 0, event: "lit" };
  const LAST = { stage: 2, event: "last" };
  it.each([
    ["a step where nothing was done", {}, [{ kind: "back", turn: "4" }]],
    ["the lit flame", { signs: [LIT] }, [{ kind: "undo", of: "lit" }]],
    ["that it was put out", { signs: [LIT], off: "off" }, [{ kind: "undo", of: "off" }]],
    [
      "the last sign with the flame that went out by it",
      { signs: [LIT, LAST], off: "off" },
      [
        { kind: "undo", of: "off" },
        { kind: "undo", of: "last" },
      ],
    ],
    [
      "a word before all",
      { signs: [LIT], off: "off", outcomes: [{ event: "word" }] },
      [{ kind: "undo", of: "word" }],
    ],
    ["a look", { looks: [{ event: "look" }] }, [{ kind: "undo", of: "look" }]],
  ])("takes back %s", (_, written, says) => {
    expect(takenBack("4", { ...NOTHING, ...written } as never)).toEqual(says);
  });
});
