import type { Caution, HeatStep, PieceView } from "../api/types";
import { sayDegrees, sayDifference } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import { titleOf } from "../piece/edit";
import { gradeWords } from "./geometry";

/** One heat in words: how hot, with what, why, what to mind, and whether it could be otherwise. */
export function HeatDetail({ view, heat }: { view: PieceView; heat: HeatStep }) {
  const why = view.plan.why.find((one) => one.heat_no === heat.heat_no);
  const cautions = view.plan.cautions.filter((caution) => caution.step === heat.n);
  const piece = view.plan.cautions.filter((caution) => caution.step === null);
  const grade = heat.joins[0]?.grade ?? null;
  const units = useUnits();
  return (
    <aside aria-label="The chosen heat" className="text-[15px]">
      <h3 className="font-semibold">
        Heat {heat.heat_no} · {heat.joins.map((row) => row.title).join(", ") || heat.purpose}
      </h3>
      <p className="figures text-[34px] leading-tight font-bold">{sayDegrees(heat.working_c, units)}</p>
      {heat.joins.map((row) => (
        <p key={row.join} className="text-quiet">
          {heat.joins.length > 1 && `${row.title}: `}
          {row.solder ? `${gradeWords(grade)}${amountOf(row.amount)}` : "no solder"}
        </p>
      ))}
      <p className="text-quiet">
        {heat.margin_c !== null &&
          `${sayDifference(heat.margin_c, units)} below where ${nameOf(view, heat.ceiling_by)} gives way`}
      </p>
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
      {why && why.ruled_out.length > 0 && (
        <>
          <h4 className="mt-5 font-semibold">Could it be otherwise?</h4>
          <ul className="mt-1 text-quiet">
            {why.ruled_out.slice(0, 6).map((out) => (
              <li key={out.solder} className="mt-1">
                <b className="font-semibold text-ink">{solderWords(out.solder)}</b> {out.reason}.
              </li>
            ))}
          </ul>
        </>
      )}
    </aside>
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

export function CautionText({ caution }: { caution: Caution }) {
  const grave = caution.severity === "danger" || caution.severity === "stop";
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

function amountOf(amount: HeatStep["joins"][number]["amount"]): string {
  if (!amount) return "";
  if (amount.chips != null)
    return `, ${String(amount.chips)} chip${amount.chips === 1 ? "" : "s"} of ${String(amount.chip_mm)} × ${String(amount.chip_mm)} mm`;
  if (amount.feed_mm != null) return `, ${amount.feed_mm.toFixed(1)} mm of wire`;
  return amount.paste_mg != null ? `, ${amount.paste_mg.toFixed(0)} mg of paste` : "";
}

const solderWords = (solder: string): string =>
  solder
    .replace(/^us-it$/, "enamelling")
    .replace(/^(us|uk)-/, "")
    .replace(/-/g, " ")
    .replace(/^cu p$/, "copper-phosphorus");
