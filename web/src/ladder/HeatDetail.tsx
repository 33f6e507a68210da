import { useState } from "react";
import type { Caution, HeatStep, PieceDocument, PieceView } from "../api/types";
import { titleOf } from "../document/edit";
import { heatsOf } from "../document/moves";
import { Button } from "../parts/Button";
import { sayDegrees, sayDifference } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import { gradeWords, saySeconds } from "../parts/words";
import { ActionKey } from "../shell/ActionKey";
import { useKeys } from "../shell/keys";
import { HeatChoices } from "./HeatChoices";
import { WhyJoin } from "./WhyJoin";

export type HeatDetailProps = {
  view: PieceView;
  heat: HeatStep;
  join?: string | undefined;
  onSelectJoin: (join: string) => void;
  onChange: (what: string, change: (document: PieceDocument) => PieceDocument) => void;
};

/** So many joins are asked about at once; of more, only when the smith asks. */
const ASKED_AT_ONCE = 14;

/** One heat in words: how hot, with what, why, what to mind, and what its chosen join could be otherwise. */
export function HeatDetail({ view, heat, join, onSelectJoin, onChange }: HeatDetailProps) {
  const why = view.plan.why.find((one) => one.heat_no === heat.heat_no);
  const cautions = view.plan.cautions.filter((caution) => caution.step === heat.n);
  const piece = view.plan.cautions.filter((caution) => caution.step === null);
  const grade = heat.joins[0]?.grade ?? null;
  const units = useUnits();
  const asked = heat.joins.find((row) => row.join === join)?.join ?? heat.joins[0]?.join;
  return (
    <aside aria-label="The chosen heat" className="text-[15px]">
      <h3 className="font-semibold">
        Heat {heat.heat_no}
        {heat.joins.length === 1 && ` · ${heat.joins[0]?.title ?? ""}`}
        {heat.joins.length === 0 && ` · ${heat.purpose}`}
      </h3>
      <RoundWords view={view} heat={heat} />
      <p className="figures text-[34px] leading-tight font-bold">{sayDegrees(heat.working_c, units)}</p>
      {heat.joins.map((row) => (
        <p key={row.join} className="text-quiet">
          {heat.joins.length > 1 && (
            <button
              type="button"
              aria-pressed={row.join === asked}
              className={`min-h-7 underline-offset-2 hover:underline ${row.join === asked ? "font-semibold text-ink" : ""}`}
              onClick={() => onSelectJoin(row.join)}
            >
              {row.title}
            </button>
          )}
          {heat.joins.length > 1 && ": "}
          {row.solder
            ? [row.named || gradeWords(grade), row.amount?.words].filter(Boolean).join(", ")
            : "no solder"}
        </p>
      ))}
      <p className="text-quiet">
        {heat.margin_c !== null &&
          `${sayDifference(heat.margin_c, units)} below where ${nameOf(view, heat.ceiling_by)} gives way`}
      </p>
      {heat.rehearsed?.likely_s && <p>{sayBand(heat.rehearsed)}</p>}
      {why && <Mark look="accent">{`${why.grade} ${why.place}`}</Mark>}
      {Object.entries(heat.states).some(([, state]) => state !== "firm") && (
        <Softened view={view} heat={heat} />
      )}
      {heat.protect.map((one) => (
        <Mark key={one.id} look="warn">{`${nameOf(view, one.id)}: ${one.how}.`}</Mark>
      ))}
      {[...cautions, ...piece].map((caution) => (
        <CautionText key={`${caution.code}-${caution.about.join()}`} caution={caution} />
      ))}
      <HeatChoices document={view.document} heat={heat} onChange={onChange} />
      {asked && <AskWhy key={asked} view={view} join={asked} onChange={onChange} />}
    </aside>
  );
}

/** Which heats share its cooling and its pot. */
function RoundWords({ view, heat }: { view: PieceView; heat: HeatStep }) {
  const mates = heatsOf(view.plan).filter((one) => one.round === heat.round && one !== heat);
  if (mates.length === 0 || heat.round === 0) return null;
  const numbers = mates.map((one) => String(one.heat_no));
  const named = [...numbers.slice(0, -2), numbers.slice(-2).join(" and ")].join(", ");
  return (
    <p className="text-quiet">
      {`Round ${String(heat.round)}: one pot with heat${mates.length > 1 ? "s" : ""} ${named}`}
    </p>
  );
}

/** What else a join could be: at once for a piece of few joins, else when it is asked for. */
function AskWhy({
  view,
  join,
  onChange,
}: {
  view: PieceView;
  join: string;
  onChange: HeatDetailProps["onChange"];
}) {
  const [wanted, setWanted] = useState(view.document.joins.length <= ASKED_AT_ONCE);
  useKeys({ "ladder.why": wanted ? undefined : () => setWanted(true) });
  if (wanted) return <WhyJoin view={view} join={join} onChange={onChange} />;
  return (
    <Button className="mt-4" onClick={() => setWanted(true)}>
      What else could it be? <ActionKey of="ladder.why" />
    </Button>
  );
}

function Softened({ view, heat }: { view: PieceView; heat: HeatStep }) {
  const named = (state: string) =>
    Object.keys(heat.states)
      .filter((join) => heat.states[join] === state)
      .map((join) => nameOf(view, join));
  const soft = named("soft");
  const flows = named("flows");
  return (
    <Mark look="warn">
      {[
        soft.length > 0 ? `Soft in this heat: ${soft.join(", ")}. Hands and pick off.` : "",
        flows.length > 0 ? `Runs again, held: ${flows.join(", ")}.` : "",
      ]
        .join(" ")
        .trim()}
    </Mark>
  );
}

/** A caution with what to do about it; in `brief`, once it was read, its first words, unless someone could be hurt. */
export function CautionText({ caution, brief = false }: { caution: Caution; brief?: boolean }) {
  const grave = caution.severity === "danger" || caution.severity === "stop";
  if (brief && !grave) {
    return (
      <Mark look={caution.severity === "warn" ? "warn" : "hair"}>
        <span className="block truncate text-quiet">{caution.text}</span>
      </Mark>
    );
  }
  return (
    <Mark look={grave ? "alarm" : caution.severity === "warn" ? "warn" : "hair"}>
      {grave && <b className="font-bold">{caution.severity}: </b>}
      {caution.text} <span className="text-quiet">{caution.remedy}.</span>
    </Mark>
  );
}

const LINES = {
  accent: "border-accent",
  warn: "border-warn-line",
  alarm: "border-alarm",
  hair: "border-hair",
};

function Mark({ look, children }: { look: keyof typeof LINES; children: React.ReactNode }) {
  return <p className={`mt-3 border-l-2 pl-3 leading-snug ${LINES[look]}`}>{children}</p>;
}

function nameOf(view: PieceView, id: string | null): string {
  const one = [...view.document.parts, ...view.document.joins].find((each) => each.id === id);
  return one ? titleOf(one) : (id ?? "");
}

/** How long a heat takes by its rehearsal, as a band. */
function sayBand(told: NonNullable<HeatStep["rehearsed"]>): string {
  const low = told.low_s ? saySeconds(told.low_s) : null;
  const high = told.high_s ? saySeconds(told.high_s) : null;
  const band = [low && `${low} with a strong flame`, high && `${high} with a weak one`]
    .filter(Boolean)
    .join(", ");
  return `Rehearsed: about ${saySeconds(told.likely_s ?? 0)}${band ? ` (${band})` : ""}.`;
}
