import { Popover } from "radix-ui";
import { useRef, useState } from "react";
import { Refusal } from "../api/client";
import { readOutline } from "../api/queries";
import type { DrawnOutline, DrawnUnit } from "../api/types";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { Choice } from "../parts/Field";
import { optionsOf } from "../parts/Select";

const UNITS = optionsOf<"" | DrawnUnit>({
  "": "choose",
  mm: "1 mm",
  cm: "1 cm",
  inch: "1 inch",
  px: "1 px, 96 to the inch",
});

type Opened = { name: string; text: string };
export type DrawingPocketProps = { onRead: (drawn: DrawnOutline, name: string) => void };

/** An outline from an SVG or DXF file becomes a part of sheet; its unit is asked where the file does not say it. */
export function DrawingPocket({ onRead }: DrawingPocketProps) {
  const [open, setOpen] = useState(false);
  const [file, setFile] = useState<Opened | null>(null);
  const [asks, setAsks] = useState(false);
  const [error, setError] = useState<unknown>(null);
  const input = useRef<HTMLInputElement>(null);
  const read = async (from: Opened, unit: DrawnUnit | null) => {
    try {
      const drawn = await readOutline(from.name, from.text, unit);
      onRead(drawn, from.name.replace(/\.\w+$/, ""));
      setOpen(false);
      setFile(null);
      setAsks(false);
      setError(null);
    } catch (problem) {
      const unknown =
        problem instanceof Refusal && problem.faults.some((fault) => fault.code === "unit-unknown");
      setAsks(unknown);
      setError(unknown ? null : problem);
    }
  };
  const take = async (chosen: File | undefined) => {
    if (!chosen) return;
    const from = { name: chosen.name, text: await chosen.text() };
    setFile(from);
    await read(from, null);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button className="!min-h-9 !px-2.5">From a drawing</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="z-20 w-80 space-y-3 rounded-lg border border-hair bg-raised p-4"
        >
          <p className="text-[15px]">
            A closed outline in an <b>.svg</b> or <b>.dxf</b> file becomes a part of sheet; loops inside it
            are holes.
          </p>
          <input
            ref={input}
            type="file"
            accept=".svg,.dxf"
            aria-label="Drawing"
            className="w-full text-[14px]"
            onChange={(event) => void take(event.target.files?.[0])}
          />
          {asks && file && (
            <Choice
              label="The file does not say its unit. One unit is"
              value=""
              options={UNITS}
              onChoose={(unit) => unit && void read(file, unit)}
            />
          )}
          <FaultList error={error} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
