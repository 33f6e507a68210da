import { useState } from "react";
import type { HeatStep, PieceDocument, PieceView } from "../api/types";
import {
  backToBest,
  type Hands,
  heatOf,
  heatsOf,
  movedJoins,
  moveJoin,
  pinJoin,
  shareHeat,
  splitHeat,
  stepGrade,
} from "../document/moves";
import type { Remedy } from "../document/remedies";
import type { Selection } from "../drawing/PictureView";
import { Beside, type BesideChoice } from "./Beside";
import { ConflictText } from "./ConflictText";
import { HandBar } from "./HandBar";
import { HeatDetail } from "./HeatDetail";
import { LadderDrawing } from "./LadderDrawing";

export type LadderProps = {
  view: PieceView;
  selected: Selection;
  onSelect: (selection: Selection) => void;
  onRemedy: (remedy: Remedy) => void;
  onChange: (what: string, change: (document: PieceDocument) => PieceDocument) => void;
};

const HEIGHT = 500;
const HEIGHT_BESIDE = 400;

/** The heat ladder: each heat a column up to its working temperature, each join's line running on to the right. */
export function Ladder({ view, selected, onSelect, onRemedy, onChange }: LadderProps) {
  const { plan, document } = view;
  const [chosen, setChosen] = useState(1);
  const [zoom, setZoom] = useState(1);
  const [beside, setBeside] = useState<BesideChoice | null>(null);
  const heats = heatsOf(plan);
  const byHand = movedJoins(document);
  const toBest = () => onChange("back to the best", backToBest);
  if (plan.conflict) {
    return (
      <div>
        <ConflictText conflict={plan.conflict} document={document} onRemedy={onRemedy} />
        {byHand.length > 0 && <HandBar view={view} heat={null} onBest={toBest} />}
      </div>
    );
  }
  if (heats.length === 0) return <NoHeats hasParts={document.parts.length > 0} />;
  const fromJoin = selected?.kind === "join" ? heatOf(plan, selected.id) : undefined;
  const shown = fromJoin ?? heats.find((heat) => heat.heat_no === chosen) ?? heats[0] ?? null;
  const choose = (heat: HeatStep) => {
    setChosen(heat.heat_no);
    const join = heat.joins[0];
    onSelect(join ? { kind: "join", id: join.join } : null);
  };
  const hands = handsOn(view, onSelect, onChange);
  return (
    <div>
      <div className="grid grid-cols-[minmax(0,1fr)_300px] gap-8">
        <div className="min-w-0">
          <LadderDrawing
            document={document}
            plan={plan}
            shown={shown}
            selected={selected}
            height={beside ? HEIGHT_BESIDE : HEIGHT}
            zoom={zoom}
            label="Heat ladder"
            onChoose={choose}
            hands={hands}
          />
          <HandBar
            view={view}
            heat={shown}
            join={selected?.kind === "join" ? selected.id : undefined}
            hands={hands}
            onBest={toBest}
            onSplit={hands.onSplit}
            zoom={zoom}
            onZoom={setZoom}
          />
          <Beside view={view} choice={beside} onChoose={setBeside} height={HEIGHT_BESIDE} />
        </div>
        {shown && (
          <HeatDetail
            view={view}
            heat={shown}
            join={selected?.kind === "join" ? selected.id : undefined}
            onSelectJoin={hands.onSelectJoin}
            onChange={onChange}
          />
        )}
      </div>
    </div>
  );
}

/** What the hand can do on the ladder of a piece. A move that is none is not made. */
function handsOn(
  { document, plan }: PieceView,
  onSelect: LadderProps["onSelect"],
  onChange: LadderProps["onChange"],
): Hands & { onSplit: (heat: HeatStep) => void } {
  /** It is looked at again on the document as it stands when its turn comes. */
  const move = (what: string, change: (now: PieceDocument) => PieceDocument | null) => {
    if (change(document)) onChange(what, (now) => change(now) ?? now);
  };
  const gradeOf = (join: string) => heatOf(plan, join)?.joins.find((row) => row.join === join)?.grade ?? "";
  return {
    onSelectJoin: (id) => onSelect({ kind: "join", id }),
    onGrade: (joins, by) =>
      move(by > 0 ? "a softer grade by hand" : "a harder grade by hand", (now) =>
        stepGrade(now, joins, gradeOf(joins[0] ?? ""), by),
      ),
    onMove: (join, target) => {
      onSelect({ kind: "join", id: join });
      move("moved on the ladder", (now) => moveJoin(now, plan, join, target));
    },
    onShare: (heat, to) => move("shared a heat", (now) => shareHeat(now, plan, heat, to)),
    onPin: (join) => move("pinned or let go", (now) => pinJoin(now, plan, join)),
    onSplit: (heat) => move("split a heat", (now) => splitHeat(now, heat)),
  };
}

function NoHeats({ hasParts }: { hasParts: boolean }) {
  return (
    <div className="py-16">
      <p className="text-[28px] font-semibold">No heat yet.</p>
      <p className="mt-2 max-w-md text-[17px] text-quiet">
        {hasParts
          ? "Add a join above: the ladder shows at once which solder it takes, in which heat, and why."
          : "Add parts above, then what joins them."}
      </p>
    </div>
  );
}
