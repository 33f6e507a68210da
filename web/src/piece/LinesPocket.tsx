import { Popover } from "radix-ui";
import { useState } from "react";
import { readLines, writeLines } from "../api/queries";
import type { Part, PieceDocument } from "../api/types";
import type { Edits } from "../document/useEdits";
import { Button } from "../parts/Button";

type Line = { line: string; wrong: string };

/** The parts as lines, one each: to be copied, changed, or written further. */
export function LinesPocket({ document, edits }: { document: PieceDocument; edits: Edits }) {
  const [open, setOpen] = useState(false);
  const [written, setWritten] = useState<string[]>([]);
  const [typed, setTyped] = useState("");
  const [wrong, setWrong] = useState<Line[]>([]);
  const show = async (now: boolean) => {
    setOpen(now);
    setWrong([]);
    if (!now) return;
    const lines = await writeLines(document.parts);
    setWritten(lines);
    setTyped(lines.join("\n"));
  };
  const take = async () => {
    const lines = typed
      .split(/\r?\n/)
      .map((line) => line.trim())
      .filter(Boolean);
    const { parts, refused } = await partsOf(lines, written, document.parts);
    setWrong(refused);
    if (refused.length > 0) return;
    edits.apply("the parts in lines", (now) => ({ ...now, parts }));
    setOpen(false);
  };
  return (
    <Popover.Root open={open} onOpenChange={(now) => void show(now)}>
      <Popover.Trigger asChild>
        <Button look="bare" className="!min-h-9 !px-1.5">
          As lines
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="z-20 w-[34rem] space-y-3 rounded-lg border border-hair bg-raised p-4"
        >
          <textarea
            aria-label="The parts, a line each"
            rows={Math.max(6, Math.min(16, typed.split("\n").length + 1))}
            spellCheck={false}
            className="figures w-full rounded border border-hair bg-raised px-2 py-1.5 text-[14px] text-ink"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
          {wrong.map((one) => (
            <p key={one.line} role="alert" className="text-[14px] text-alarm">
              {one.line}: {one.wrong}
            </p>
          ))}
          <p className="text-[14px] text-quiet">
            A line changes the part that it stands for; further lines are further parts. To take a part out,
            use its row.
          </p>
          <Button look="main" disabled={typed.trim() === written.join("\n")} onClick={() => void take()}>
            Take the lines
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The parts that the lines tell of: those that are as they were written stay as they are. */
async function partsOf(lines: string[], written: string[], known: Part[]) {
  const parts: Part[] = [];
  const refused: Line[] = [];
  for (const [n, line] of lines.entries()) {
    const base = known[n];
    if (base && line === written[n]) {
      parts.push(base);
      continue;
    }
    const taken = [...known, ...parts].map((part) => part.id);
    const [read] = await readLines({ lines: [line], last: parts.at(-1) ?? null, base: base ?? null, taken });
    const fault = read?.faults?.[0];
    if (read?.part) parts.push(read.part);
    else refused.push({ line, wrong: fault ? `${fault.rule}. ${fault.remedy}` : "it was not read" });
  }
  return { parts: [...parts, ...known.slice(lines.length)], refused };
}
