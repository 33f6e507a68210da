import { useState } from "react";
import type { HeatStep, PieceView } from "../api/types";
import { titleOf } from "../document/edit";
import { type Hands, movedJoins, type Target } from "../document/moves";
import { Button } from "../parts/Button";
import { Select } from "../parts/Select";
import { Tip } from "../parts/Tip";
import { ActionKey } from "../shell/ActionKey";
import { useKeys } from "../shell/keys";

export type HandBarProps = {
  view: PieceView;
  heat: HeatStep | null;
  join?: string | undefined;
  hands?: Hands;
  zoom?: number;
  onZoom?: (zoom: number) => void;
  onBest: () => void;
  onSplit?: (heat: HeatStep) => void;
};

const MOST_ZOOM = 4;
const MANY_HEATS = 8;
const MANY_JOINS = 12;

/** What the hand can do on the ladder, and what its moves have cost against the best. */
export function HandBar({ view, heat, join, hands, zoom = 1, onZoom, onBest, onSplit }: HandBarProps) {
  const moved = movedJoins(view.document);
  const row = heat?.joins.find((each) => each.join === join) ?? heat?.joins[0];
  useKeys({
    "ladder.best": moved.length > 0 ? onBest : undefined,
    "ladder.pin": hands && row ? () => hands.onPin(row.join) : undefined,
  });
  const heats = view.plan.steps.filter((step) => step.kind === "heat").length;
  return (
    <div className="mt-1 border-t border-hair pt-2">
      {moved.length > 0 && <Cost view={view} moved={moved} onBest={onBest} />}
      {hands && heat && row && (
        <div className="flex flex-wrap items-center gap-2">
          <Tip words={row.title}>
            <span className="mr-1 max-w-44 truncate text-[15px] font-semibold">{row.title}</span>
          </Tip>
          <Button className="!px-3" disabled={!row.grade} onClick={() => hands.onGrade([row.join], -1)}>
            Harder <ActionKey of="ladder.harder" />
          </Button>
          <Button className="!px-3" disabled={!row.grade} onClick={() => hands.onGrade([row.join], 1)}>
            Softer <ActionKey of="ladder.softer" />
          </Button>
          <MoveTo view={view} heat={heat} onMove={(target) => hands.onMove(row.join, target)} />
          <Button className="!px-3" onClick={() => hands.onPin(row.join)}>
            {moved.includes(row.join) ? "Let go" : "Pin"} <ActionKey of="ladder.pin" />
          </Button>
          {heat.joins.length > 1 && onSplit && (
            <Button className="!px-3" onClick={() => onSplit(heat)}>
              Split the heat
            </Button>
          )}
        </div>
      )}
      {onZoom && hands && (heats > MANY_HEATS || view.document.joins.length > MANY_JOINS) && (
        <div className="mt-2 flex items-center gap-2">
          <FindJoin view={view} onFound={hands.onSelectJoin} />
          <Button className="!px-3" disabled={zoom <= 1} onClick={() => onZoom(zoom / 1.5)}>
            Closer together
          </Button>
          <Button className="!px-3" disabled={zoom >= MOST_ZOOM} onClick={() => onZoom(zoom * 1.5)}>
            Wider apart
          </Button>
        </div>
      )}
    </div>
  );
}

function Cost({ view, moved, onBest }: { view: PieceView; moved: string[]; onBest: () => void }) {
  const names = view.document.joins.filter((join) => moved.includes(join.id)).map(titleOf);
  const few = names.slice(0, 3).join(", ");
  return (
    <div
      className="mb-2 flex items-center gap-3 border-l-2 border-accent pl-3"
      role="status"
      aria-label="By hand"
    >
      <p className="min-w-0 flex-1 text-[16px] leading-snug">
        <b className="font-semibold">
          By hand: {few}
          {names.length > 3 ? ` and ${String(names.length - 3)} more` : ""}.
        </b>{" "}
        {view.plan.by_hand?.cost ??
          (view.plan.conflict ? "With these moves no plan is possible." : "Planning…")}
      </p>
      <Button className="shrink-0 !px-3" onClick={onBest}>
        Back to best <ActionKey of="ladder.best" />
      </Button>
    </div>
  );
}

type MoveToProps = {
  view: PieceView;
  heat: HeatStep;
  onMove: (target: Target) => void;
};

/** The other heats, to move a join there without the mouse. */
function MoveTo({ view, heat, onMove }: MoveToProps) {
  const no = heat.heat_no;
  const places: [Target, string][] = [
    ...view.plan.steps
      .filter((step) => step.kind === "heat")
      .filter((other) => other.heat_no !== no && other.joins.length > 0)
      .map((other): [Target, string] => [
        { heat: other.heat_no },
        `heat ${String(other.heat_no)}, with ${other.joins[0]?.title ?? ""}`,
      ]),
    [{ after: no }, `a heat of its own, after heat ${String(no)}`],
    [{ after: no - 1 }, `a heat of its own, before heat ${String(no)}`],
  ];
  return (
    <Select
      label="Move to another heat"
      className="min-h-10 rounded-md border border-hair bg-raised px-2 text-[15px]"
      value=""
      options={[["", "Move to…"], ...places.map(([, words], n) => [String(n), words] as const)]}
      onChoose={(chosen) => {
        const target = chosen && places[Number(chosen)]?.[0];
        if (target) onMove(target);
      }}
    />
  );
}

/** Find a join among many by a few letters of its name. */
function FindJoin({ view, onFound }: { view: PieceView; onFound: (join: string) => void }) {
  const [words, setWords] = useState("");
  const [at, setAt] = useState(0);
  const wanted = words.trim().toLowerCase();
  const found = wanted
    ? view.document.joins.filter((join) => titleOf(join).toLowerCase().includes(wanted))
    : [];
  const show = (n: number) => {
    const join = found[n % Math.max(found.length, 1)];
    if (join) onFound(join.id);
    setAt(n);
  };
  return (
    <>
      <input
        aria-label="Find a join"
        placeholder="Find a join"
        className="min-h-10 w-44 rounded-md border border-hair bg-raised px-2 text-[15px]"
        value={words}
        onChange={(event) => {
          setWords(event.target.value);
          setAt(-1);
        }}
        onKeyDown={(event) => event.key === "Enter" && show(at + 1)}
      />
      <span className="w-24 text-[14px] text-quiet" role="status" aria-label="Joins found">
        {wanted && (found.length === 0 ? "none found" : `${String(found.length)} found, ⏎`)}
      </span>
    </>
  );
}
