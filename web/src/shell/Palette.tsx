import { useQueryClient } from "@tanstack/react-query";
import { useNavigate, useRouterState } from "@tanstack/react-router";
import { Command } from "cmdk";
import { type ReactNode, useState } from "react";
import { useLog, usePieces, useRulesSpeaking, useSizes, useStarts } from "../api/queries";
import type { PieceView } from "../api/types";
import { useSettled } from "../parts/useSettled";
import { ActionKey } from "./ActionKey";
import { ACTIONS, type ActionId } from "./actions";
import { actionsNow, actNow, useKeys } from "./keys";

const SETTLED_MS = 200;
const PLACES = [
  ["/work", "Work"],
  ["/begin", "Begin"],
  ["/sizes", "Sizes"],
  ["/bench", "Bench"],
  ["/rules", "House rules"],
  ["/log", "Log"],
] as const;

/** One field that finds anything: what can be done here, pieces, their parts and joins, starts, calculators, rules, log notes. */
export function Palette() {
  const [open, setOpen] = useState(false);
  // What can be done is what could be done before the palette lay over it.
  const [now, setNow] = useState<ActionId[]>([]);
  useKeys({
    "palette.open": () => {
      setNow([...actionsNow()].filter((id) => id !== "palette.open"));
      setOpen(true);
    },
  });
  return (
    <Command.Dialog
      open={open}
      onOpenChange={setOpen}
      label="Find anything"
      filter={holdsAll}
      overlayClassName="fixed inset-0 z-20 bg-black/50"
      contentClassName="fixed top-[12vh] left-1/2 z-20 w-[min(44rem,94vw)] -translate-x-1/2 overflow-hidden rounded-lg border border-quiet bg-raised text-ink"
    >
      {open && <Found now={now} onDone={() => setOpen(false)} />}
    </Command.Dialog>
  );
}

/** Whether a row holds every word that was typed. */
function holdsAll(value: string, words: string): number {
  const text = value.toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word))
    ? 1
    : 0;
}

function Found({ now, onDone }: { now: ActionId[]; onDone: () => void }) {
  const [words, setWords] = useState("");
  const go = useNavigate();
  const to: To = (move) => () => {
    onDone();
    void move();
  };
  const act = (id: ActionId) => () => {
    onDone();
    // Once the palette has gone, so that what is done may take the focus.
    requestAnimationFrame(() => actNow(id));
  };
  return (
    <>
      <Command.Input
        value={words}
        onValueChange={setWords}
        placeholder="Find a piece, a part, a start, a calculator, a rule, a note …"
        className="min-h-14 w-full border-b border-hair bg-transparent px-5 text-[19px] outline-none"
      />
      <Command.List className="max-h-[56vh] overflow-y-auto pb-2">
        <Command.Empty className="px-5 py-6 text-[16px] text-quiet">Nothing holds these words.</Command.Empty>
        <Group title="Do">
          {now.map((id) => (
            <Row key={id} value={`do ${ACTIONS[id].label}`} onSelect={act(id)} words={ACTIONS[id].label}>
              <ActionKey of={id} />
            </Row>
          ))}
        </Group>
        <OfThisPiece to={to} />
        <Pieces to={to} />
        <Group title="Go to">
          {PLACES.map(([place, name]) => (
            <Row key={place} value={`go to ${name}`} words={name} onSelect={to(() => go({ to: place }))} />
          ))}
        </Group>
        <Known to={to} />
        <Notes words={words} to={to} />
      </Command.List>
    </>
  );
}

/** Leaves the palette for somewhere else. */
type To = (move: () => Promise<void>) => () => void;

function Pieces({ to }: { to: To }) {
  const go = useNavigate();
  const pieces = usePieces().data ?? [];
  return (
    <Group title="Pieces">
      {pieces.map((line) => (
        <Row
          key={line.id}
          value={`piece ${line.name} ${String(line.id)}`}
          words={line.name}
          onSelect={to(() => go({ to: "/work/$piece", params: { piece: String(line.id) }, search: {} }))}
        />
      ))}
    </Group>
  );
}

/** The parts and joins of the piece that is open. */
function OfThisPiece({ to }: { to: To }) {
  const go = useNavigate();
  const path = useRouterState({ select: (state) => state.location.pathname });
  const piece = /^\/work\/(\d+)/.exec(path)?.[1];
  const view = useQueryClient().getQueryData<PieceView>(["piece", Number(piece)]);
  if (!piece || !view) return null;
  const { parts, joins, work } = view.document;
  const rows = (["part", "join", "work"] as const).flatMap((kind) =>
    ({ part: parts, join: joins, work })[kind].map((one) => ({
      kind,
      id: one.id,
      title: one.name || one.id.replace(/[-_]/g, " "),
    })),
  );
  return (
    <Group title="Of this piece">
      {rows.map(({ kind, id, title }) => (
        <Row
          key={`${kind} ${id}`}
          value={`${kind} ${title} ${id}`}
          words={title}
          onSelect={to(() => go({ to: "/work/$piece", params: { piece }, search: { [kind]: id } }))}
        >
          <span className="text-quiet">{kind}</span>
        </Row>
      ))}
    </Group>
  );
}

/** What Eskel knows: starts, calculators, rules. */
function Known({ to }: { to: To }) {
  const go = useNavigate();
  const starts = useStarts().data ?? [];
  const sizes = useSizes().data ?? [];
  const rules = useRulesSpeaking().data ?? [];
  return (
    <>
      <Group title="Starts">
        {starts.map(({ info }) => (
          <Row
            key={info.name}
            value={`begin ${info.title} ${info.words.join(" ")}`}
            words={info.title}
            onSelect={to(() => go({ to: "/begin/$start", params: { start: info.name }, search: {} }))}
          />
        ))}
      </Group>
      <Group title="Calculators">
        {sizes.map((one) => (
          <Row
            key={one.name}
            value={`size ${one.title} ${one.name}`}
            words={one.title}
            onSelect={to(() => go({ to: "/sizes/$name", params: { name: one.name } }))}
          />
        ))}
      </Group>
      <Group title="Rules">
        {rules.map((rule) => (
          <Row
            key={rule.code}
            value={`rule ${rule.code.replace(/-/g, " ")} ${rule.words.join(" ")}`}
            words={rule.code.replace(/-/g, " ")}
            onSelect={to(() => go({ to: "/rules" }))}
          >
            <span className="max-w-96 truncate text-[14px] text-quiet">{rule.words[0]}</span>
          </Row>
        ))}
      </Group>
    </>
  );
}

/** Runs whose log holds the words, notes too: asked when the typing pauses. */
function Notes({ words, to }: { words: string; to: To }) {
  const go = useNavigate();
  const asked = useSettled(words.trim(), SETTLED_MS);
  const lines = useLog({ words: asked }).data ?? [];
  if (asked === "") return null;
  return (
    <Group title="In the log">
      {lines.slice(0, 8).map((line) => (
        <Row
          key={line.id}
          // The log has found it by the words: here it is not sorted out again.
          value={`log ${asked} ${String(line.id)}`}
          words={line.piece_name}
          onSelect={to(() => go({ to: "/log/$run", params: { run: String(line.id) } }))}
        >
          <span className="figures text-[14px] text-quiet">{line.started_at.slice(0, 10)}</span>
        </Row>
      ))}
    </Group>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Command.Group
      heading={title}
      className="[&_[cmdk-group-heading]]:px-5 [&_[cmdk-group-heading]]:pt-3 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-[13px] [&_[cmdk-group-heading]]:text-quiet"
    >
      {children}
    </Command.Group>
  );
}

type RowProps = { value: string; words: string; onSelect: () => void; children?: ReactNode };

function Row({ value, words, onSelect, children }: RowProps) {
  return (
    <Command.Item
      value={value}
      onSelect={onSelect}
      className="flex min-h-10 cursor-pointer items-center justify-between gap-4 px-5 text-[16px] data-[selected=true]:bg-sunk"
    >
      <span className="min-w-0 truncate">{words}</span>
      {children}
    </Command.Item>
  );
}
