// @vitest-environment happy-dom
/// <reference types="vite/client" />
import { cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { HeatStep, PieceView } from "../src/api/types";
import type { Hands } from "../src/document/moves";
import { HandBar } from "../src/ladder/HandBar";
import { JoinHandles } from "../src/ladder/JoinHandles";
import { ACTIONS, type ActionId, actionsAt, type Place, printed } from "../src/shell/actions";
import { Help } from "../src/shell/Help";
import { useKeys } from "../src/shell/keys";

afterEach(cleanup);

const FILES = import.meta.glob<string>("../src/*/*.tsx", { query: "?raw", import: "default", eager: true });
const HOOKS = import.meta.glob<string>("../src/*/use*.ts", { query: "?raw", import: "default", eager: true });
const CODE = [...Object.values(FILES), ...Object.values(HOOKS)].join("\n");
const IDS = Object.keys(ACTIONS) as ActionId[];

describe("the table of actions", () => {
  it.each(IDS)("%s is answered by a screen", (id) => {
    expect(CODE).toMatch(new RegExp(`"${id.replace(".", "\\.")}": `));
  });

  // What is heard by the chosen thing comes before what is heard by the screen around it, so only the same place clashes.
  it.each([...new Set(IDS.map((id) => ACTIONS[id].where))] as Place[])(
    "no key means two things %s",
    (where) => {
      const keys = actionsAt(where).flatMap((id) => [...ACTIONS[id].keys]);
      expect(new Set(keys).size).toBe(keys.length);
    },
  );

  it("is where every key is drawn from, but for those that the work itself offers", () => {
    const drawn = Object.entries(FILES).flatMap(([path, text]) =>
      [...text.matchAll(/<Key\b[^>]*>([^<]*)</g)].map((found) => `${path}: ${found[1] ?? ""}`),
    );
    expect(drawn.sort()).toEqual([
      "../src/ladder/ConflictText.tsx: {letter}",
      "../src/run/AtTorch.tsx: {printed(pedal)}",
      "../src/run/Copies.tsx: {keyed}",
      "../src/run/LookKeys.tsx: a",
      '../src/run/LookKeys.tsx: {word?.key ?? "2"}',
      "../src/run/StepKeys.tsx: a",
      "../src/run/StepKeys.tsx: {String(n + from)}",
      "../src/run/StepKeys.tsx: {word.key}",
      "../src/shell/ActionKey.tsx: {printed(ACTIONS[of].keys[0])}",
    ]);
  });

  it("prints keys as they stand on a keyboard", () => {
    expect(["shift+arrowleft", "ctrl+z", "space", "escape"].map(printed)).toEqual([
      "shift ←",
      "ctrl z",
      "space",
      "esc",
    ]);
  });
});

function Torch() {
  useKeys({ "run.next": () => {} }, { spaceIsOurs: true });
  return <Help />;
}

describe("the overlay of keys", () => {
  it("opens by ?, tells first what holds here, and is closed by Escape", async () => {
    render(<Torch />);
    fireEvent.keyDown(document.body, { key: "?", shiftKey: true });
    const told = within(screen.getByRole("dialog", { name: "Keys" }));
    const places = told.getAllByRole("heading", { level: 3 }).map((one) => one.textContent);
    expect(places.slice(0, 2)).toEqual(["at the torch", "anywhere"]);
    expect(places).toContain("on a piece, not on this screen");
    expect(told.getByText("Write a note").textContent).toBe("Write a note n");
    await userEvent.keyboard("{Escape}");
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });
});

const row = { join: "rim", title: "Rim", solder: "hard", grade: "hard" };
const heat = { kind: "heat", heat_no: 2, joins: [row], parts: [] } as unknown as HeatStep;
const document_ = { parts: [], joins: [{ id: "rim", title: "Rim" }] };
const view = { document: document_, plan: { steps: [heat], conflict: null } } as unknown as PieceView;
const hands = () => ({ onGrade: vi.fn(), onMove: vi.fn(), onPin: vi.fn(), onSelectJoin: vi.fn() });
const column = { heat, x: 20, width: 60, room: 120, top: 10, softness: [] };
const shape = {
  columns: [column],
  rounds: [],
  pitch: 120,
  floor: 200,
  crowded: false,
  marks: [],
  y: (c: number) => 900 - c,
};

function Ladder({ by }: { by: ReturnType<typeof hands> }) {
  return (
    <>
      <svg aria-label="ladder">
        <JoinHandles
          shape={shape as never}
          document={view.document}
          selected={null}
          hands={by as unknown as Hands}
        />
      </svg>
      <HandBar view={view} heat={heat} join="rim" hands={by as unknown as Hands} onBest={() => {}} />
    </>
  );
}

describe("keys on the ladder", () => {
  it("p pins the chosen join from anywhere, and once when its own name has the focus", () => {
    const by = hands();
    render(<Ladder by={by} />);
    fireEvent.keyDown(document.body, { key: "p" });
    expect(by.onPin.mock.calls).toEqual([["rim"]]);
    fireEvent.keyDown(screen.getByRole("button", { name: "Rim, heat 2" }), { key: "p" });
    expect(by.onPin.mock.calls).toEqual([["rim"], ["rim"]]);
  });

  it.each([
    [{ key: "ArrowUp" }, "onGrade", [["rim"], -1]],
    [{ key: "ArrowDown" }, "onGrade", [["rim"], 1]],
    [{ key: "o" }, "onMove", ["rim", { after: 1 }]],
    [{ key: "Enter" }, "onSelectJoin", ["rim"]],
    [{ key: " " }, "onSelectJoin", ["rim"]],
  ] as const)("%j on a join's name is %s", (key, hand, told) => {
    const by = hands();
    render(<Ladder by={by} />);
    fireEvent.keyDown(screen.getByRole("button", { name: "Rim, heat 2" }), key);
    expect(by[hand].mock.calls).toEqual([told]);
  });
});

describe("a join's name under the hand", () => {
  const other = { ...heat, heat_no: 3, joins: [{ ...row, join: "foot", title: "Foot" }] } as HeatStep;
  const two = { ...shape, columns: [column, { ...column, heat: other, x: 140 }] };

  function drag(to: number): ReturnType<typeof hands> {
    const by = hands();
    render(
      <svg aria-label="ladder">
        <JoinHandles
          shape={two as never}
          document={view.document}
          selected={null}
          hands={by as unknown as Hands}
        />
      </svg>,
    );
    const name = screen.getByRole("button", { name: "Rim, heat 2" });
    name.setPointerCapture = () => {};
    fireEvent.pointerDown(name, { button: 0, clientX: 50, clientY: 240 });
    fireEvent.pointerMove(name, { clientX: to, clientY: 240 });
    fireEvent.pointerUp(name);
    return by;
  }

  it.each([
    ["into another heat", 170, { heat: 3 }],
    ["between two heats", 110, { after: 2 }],
    ["before the first", 2, { after: 0 }],
    ["behind the last", 260, { after: 3 }],
  ])("is carried %s", (_, to, target) => {
    const by = drag(to);
    expect(by.onMove.mock.calls).toEqual([["rim", target]]);
    expect(by.onSelectJoin).not.toHaveBeenCalled();
  });

  it("is chosen by a touch that trembles", () => {
    const by = drag(54);
    expect(by.onSelectJoin.mock.calls).toEqual([["rim"]]);
    expect(by.onMove).not.toHaveBeenCalled();
  });
});
