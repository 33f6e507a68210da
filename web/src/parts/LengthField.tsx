import { useEffect, useState } from "react";
import { boxed, Field } from "./Field";
import { readLength } from "./readLength";
import { bareLength } from "./units";
import { useUnits } from "./useUnits";

export type LengthFieldProps = {
  label: string;
  mm: number;
  onCommit: (mm: number) => void;
  zero?: boolean;
  /** Nought is nothing: the field stands empty, and is emptied to say so. */
  blank?: boolean;
  /** A size that stock comes in: the gauge that is near is told beside it. */
  stock?: boolean;
};

/** A length, typed in mm, inch or gauge; what was typed stays until it is understood. */
export function LengthField({ label, mm, onCommit, zero = false, blank = false, stock }: LengthFieldProps) {
  const units = useUnits();
  const standing = blank && mm === 0 ? "" : bareLength(mm, units);
  const [typed, setTyped] = useState(standing);
  useEffect(() => setTyped(standing), [standing]);
  const isNought = (text: string) => (zero || blank) && text.trim() !== "" && Number(text) === 0;
  const read = isNought(typed) ? { value: 0, understood: "none" } : readLength(typed, units);
  const told = typed !== standing && typed.trim() !== "";
  const commit = (text: string) => {
    if (text === standing) return;
    if (blank && text.trim() === "") return onCommit(0);
    const length = isNought(text) ? { value: 0 } : readLength(text, units);
    if ("problem" in length) return;
    if (length.value === mm) setTyped(standing);
    else onCommit(length.value);
  };
  return (
    <Field label={label}>
      {(id) => (
        <>
          <input
            id={id}
            className={`${boxed} figures`}
            value={typed}
            aria-invalid={told && "problem" in read}
            onFocus={(event) => event.target.select()}
            onChange={(event) => setTyped(event.target.value)}
            onBlur={(event) => commit(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "Enter") commit(event.currentTarget.value);
              if (event.key === "Escape") setTyped(standing);
            }}
          />
          {told && !("problem" in read) && (
            <p className="text-[13px] text-quiet">
              {stock ? read.understood : read.understood.replace(/, near .*$/, "")}
            </p>
          )}
          {told && "problem" in read && <p className="text-[13px] text-alarm">{read.problem}</p>}
        </>
      )}
    </Field>
  );
}
