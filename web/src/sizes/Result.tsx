import type { SizeAnswer } from "../api/types";
import { sayLength, sayMass } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import { PassTable } from "./PassTable";
import { SketchView } from "./SketchView";

export type ResultProps = { answer: SizeAnswer; stale: boolean };

/** The result: the figure wanted as the largest thing, its drawing to scale, how it was found, what to beware of. */
export function Result({ answer, stale }: ResultProps) {
  const [main, ...others] = answer.values;
  const units = useUnits();
  const passes = answer.found.passes;
  return (
    <div className={stale ? "opacity-40" : ""} aria-live="polite" aria-busy={stale}>
      {main && (
        <p>
          <span className="block text-[15px] text-quiet">{main.label}</span>
          <output className="figures text-[52px] leading-none font-bold" data-testid="main-result">
            {main.text}
          </output>
          {main.other && <span className="figures ml-4 text-[20px] text-quiet">{main.other}</span>}
        </p>
      )}
      {answer.lot && answer.lot.count > 1 && (
        <p className="mt-1 text-[16px]">
          <b className="font-semibold">{answer.lot.text}</b>
          {answer.lot.total_mm != null && (
            <span className="figures"> = {sayLength(answer.lot.total_mm, units, 1)} in all</span>
          )}
          {answer.lot.mass_g != null && (
            <span className="figures">, {sayMass(answer.lot.mass_g, units)}</span>
          )}
        </p>
      )}
      {answer.cautions.map((caution) => (
        <p
          key={caution.code + caution.text}
          className={`mt-2 border-l-[3px] py-0.5 pl-3 text-[15px] ${caution.severity === "note" ? "border-hair text-quiet" : "border-warn-line"}`}
        >
          {caution.text} <b className="font-semibold">{caution.remedy}</b>
        </p>
      ))}
      <dl className="mt-3 grid grid-cols-3 gap-x-6 border-t border-hair text-[15px]">
        {others.map((other) => (
          <div
            key={other.key}
            className={`border-b border-hair py-1.5 ${other.text.length > 24 ? "col-span-3" : ""}`}
          >
            <dt className="text-[13px] text-quiet">{other.label}</dt>
            <dd>
              <span className={`font-semibold ${isFigure(other.text) ? "figures" : ""}`}>{other.text}</span>
              {other.other && <span className="figures ml-2 text-[13px] text-quiet">{other.other}</span>}
            </dd>
          </div>
        ))}
      </dl>
      <div className={Array.isArray(passes) ? "mt-2 grid grid-cols-[1fr_300px] items-start gap-5" : "mt-2"}>
        {answer.sketch && (
          <SketchView sketch={answer.sketch} width={Array.isArray(passes) ? 300 : 600} height={260} />
        )}
        {Array.isArray(passes) && <PassTable passes={passes} />}
      </div>
      <div className="mt-3 space-y-1.5 border-t border-hair pt-3 text-[15px]">
        <p>
          <span className="text-quiet">How: </span>
          <span className="figures">{answer.how}</span>
        </p>
        {answer.sensitivity.map((one) => (
          <p key={one} className="text-quiet">
            {one}
          </p>
        ))}
        {answer.tools.map((tool) => (
          <p key={tool.kind + tool.text}>{tool.text}</p>
        ))}
        {answer.safety.map((one) => (
          <p key={one} className="border-l-[3px] border-warn-line pl-3 text-[14px] text-quiet">
            {one}
          </p>
        ))}
      </div>
    </div>
  );
}

const isFigure = (text: string) => /^[-\d]/.test(text);
