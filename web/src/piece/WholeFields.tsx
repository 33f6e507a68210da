import { useEffect, useState } from "react";
import type { PieceDocument } from "../api/types";
import type { Edits } from "../document/useEdits";
import { Field, NumberField, Tick } from "../parts/Field";

/** What is told of the piece as a whole: how many of it, whether they are pairs, notes. */
export function WholeFields({ document, edits }: { document: PieceDocument; edits: Edits }) {
  return (
    <section className="mt-6 pb-8">
      <h2 className="text-[17px] font-semibold">The piece</h2>
      <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2 border-t border-hair pt-2">
        <NumberField
          label="How many of it"
          value={document.copies}
          whole
          onCommit={(copies) => copies >= 1 && edits.apply("how many of it", (now) => ({ ...now, copies }))}
        />
        <div className="self-end">
          <Tick
            label="every second one mirrored"
            ticked={document.mirrored}
            onTick={(mirrored) => edits.apply("mirrored", (now) => ({ ...now, mirrored }))}
          />
        </div>
        <Notes
          notes={document.notes}
          onWrite={(notes) => edits.apply("notes", (now) => ({ ...now, notes }))}
        />
      </div>
    </section>
  );
}

function Notes({ notes, onWrite }: { notes: string; onWrite: (notes: string) => void }) {
  const [typed, setTyped] = useState(notes);
  useEffect(() => setTyped(notes), [notes]);
  return (
    <Field label="Notes" wide>
      {(id) => (
        <textarea
          id={id}
          rows={3}
          className="w-full rounded border border-hair bg-raised px-2 py-1.5 text-[15px] text-ink hover:border-quiet"
          value={typed}
          maxLength={10_000}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={() => typed !== notes && onWrite(typed)}
        />
      )}
    </Field>
  );
}
