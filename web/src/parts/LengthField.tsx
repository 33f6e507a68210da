import { useEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { readQuantity } from "../api/queries";
import type { Reading } from "../api/types";
import { boxed, Field } from "./Field";
import { bareLength } from "./units";
import { useUnits } from "./useUnits";

/** Reads under way, so that whoever takes what was typed can wait until all of it is understood. */
const underWay = new Set<Promise<void>>();

function inTurn(read: Promise<void>): Promise<void> {
  underWay.add(read);
  return read.finally(() => underWay.delete(read));
}

/** Wait until every length that was left or entered has been read and told. */
export const lengthsRead = async (): Promise<void> => {
  await Promise.all(underWay);
};

export type LengthFieldProps = {
  label: string;
  mm: number;
  onCommit: (mm: number) => void;
  zero?: boolean;
};

/** A length, typed in mm, inch or gauge; what was typed stays until it is understood. */
export function LengthField({ label, mm, onCommit, zero }: LengthFieldProps) {
  const standing = bareLength(mm, useUnits());
  const [typed, setTyped] = useState(standing);
  const [understood, setUnderstood] = useState<Reading | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const asked = useRef(0);
  // While a length is read the fields beside it may have changed: what is told then is the newest caller.
  const newest = useRef(onCommit);
  newest.current = onCommit;
  useEffect(() => {
    setTyped(standing);
    setUnderstood(null);
    setProblem(null);
  }, [standing]);

  const read = async (text: string): Promise<Reading | null> => {
    const ticket = ++asked.current;
    if (zero && Number(text) === 0 && text.trim() !== "") return { value: 0, understood: "none" };
    try {
      const length = await readQuantity(text);
      if (ticket === asked.current) {
        setUnderstood(length);
        setProblem(null);
      }
      return length;
    } catch (error) {
      if (ticket === asked.current) {
        setUnderstood(null);
        setProblem(error instanceof Error ? error.message.replace(/^length: /, "") : String(error));
      }
      return null;
    }
  };
  const change = (text: string) => {
    setTyped(text);
    if (text.trim() === "") {
      asked.current++;
      setUnderstood(null);
      setProblem(null);
    } else void read(text);
  };
  const commit = () => inTurn(readAndTell());
  const readAndTell = async () => {
    if (typed === standing) return;
    const length = await read(typed);
    if (length && length.value !== mm) flushSync(() => newest.current(length.value));
    else if (length) setTyped(standing);
  };
  return (
    <Field label={label}>
      {(id) => (
        <>
          <input
            id={id}
            className={`${boxed} figures`}
            value={typed}
            aria-invalid={problem !== null}
            onChange={(event) => change(event.target.value)}
            onBlur={() => void commit()}
            onKeyDown={(event) => {
              if (event.key === "Enter") void commit();
              if (event.key === "Escape") change(standing);
            }}
          />
          {understood && typed !== standing && (
            <p className="text-[13px] text-quiet">{understood.understood}</p>
          )}
          {problem && <p className="text-[13px] text-alarm">{problem}</p>}
        </>
      )}
    </Field>
  );
}
