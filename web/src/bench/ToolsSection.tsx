import { useEffect, useState } from "react";
import type { Tool } from "../api/types";
import { boxed } from "../parts/Field";
import { LengthField } from "../parts/LengthField";
import { readLength } from "../parts/readLength";
import { useUnits } from "../parts/useUnits";
import { sayTools, splitSizes, TOOL_WORDS, type ToolKind, withSizes, withTurn } from "./tools";

export type ToolsSectionProps = { tools: readonly Tool[]; onChange: (tools: Tool[]) => void };

/** The tools at hand: a line of sizes for each kind. Calculators snap to them. */
export function ToolsSection({ tools, onChange }: ToolsSectionProps) {
  const groove = tools.find((tool) => tool.kind === "mill-groove");
  return (
    <section>
      <h2 className="text-[17px] font-semibold">Tools at hand</h2>
      <p className="text-[14px] text-quiet">
        Sizes in a line, as 3, 5, 1/4 in or 18 ga. Every result in Sizes that needs one snaps to the nearest.
      </p>
      <div className="mt-2 space-y-1.5">
        {TOOL_WORDS.map(([kind, words]) => (
          <SizesLine key={kind} kind={kind} words={words} tools={tools} onChange={onChange} />
        ))}
        {groove && (
          <div className="ml-[146px] w-40">
            <LengthField
              label="Mill closes a turn"
              mm={groove.mm_per_turn ?? 0}
              onCommit={(mm) => onChange(withTurn(tools, mm))}
            />
          </div>
        )}
      </div>
    </section>
  );
}

type SizesLineProps = ToolsSectionProps & { kind: ToolKind; words: string };

function SizesLine({ kind, words, tools, onChange }: SizesLineProps) {
  const standing = sayTools(tools, kind);
  const [typed, setTyped] = useState(standing);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => setTyped(standing), [standing]);
  const units = useUnits();
  const commit = () => {
    if (typed === standing) return setProblem(null);
    const read = splitSizes(typed).map((one) => (kind === "blade" ? one : readLength(one, units)));
    const wrong = read.find((one) => typeof one !== "string" && "problem" in one);
    if (typeof wrong === "object" && "problem" in wrong) return setProblem(wrong.problem);
    setProblem(null);
    onChange(
      withSizes(
        tools,
        kind,
        read.map((one) => (typeof one === "object" && "value" in one ? one.value : (one as string))),
      ),
    );
  };
  return (
    <div className="grid grid-cols-[130px_1fr] items-start gap-x-4">
      <label htmlFor={`tools-${kind}`} className="pt-1.5 text-[15px]">
        {words}
      </label>
      <div>
        <input
          id={`tools-${kind}`}
          className={`${boxed} figures`}
          value={typed}
          placeholder="none"
          aria-invalid={problem !== null}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={() => commit()}
          onKeyDown={(event) => {
            if (event.key === "Enter") commit();
            if (event.key === "Escape") setTyped(standing);
          }}
        />
        {problem && <p className="text-[13px] text-alarm">{problem}</p>}
      </div>
    </div>
  );
}
