/** The answer of a calculator to what is typed: asked at once with every change; only the newest question counts. */
import { useEffect, useState } from "react";
import { Refusal } from "../api/client";
import { askSize } from "../api/queries";
import type { Fault, SizeAnswer } from "../api/types";

export type Told = { answer: SizeAnswer | null; faults: Fault[] };

export function useAnswer(name: string, sent: Record<string, unknown>): Told {
  const [told, setTold] = useState<Told>({ answer: null, faults: [] });
  const asked = JSON.stringify(sent);
  useEffect(() => {
    let newest = true;
    askSize(name, JSON.parse(asked)).then(
      (answer) => newest && setTold({ answer, faults: [] }),
      (problem: unknown) => {
        if (!newest) return;
        const faults = problem instanceof Refusal ? problem.faults : [];
        setTold((before) => ({ answer: before.answer?.name === name ? before.answer : null, faults }));
      },
    );
    return () => {
      newest = false;
    };
  }, [name, asked]);
  return told.answer && told.answer.name !== name ? { answer: null, faults: [] } : told;
}
