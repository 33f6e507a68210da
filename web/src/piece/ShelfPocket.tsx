/** Finished findings off the shelf, put into a piece: their parts are there, their joins are made. */
import { useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { Popover } from "radix-ui";
import { useState } from "react";
import { takeFinding, useFindings } from "../api/queries";
import type { FindingView } from "../api/types";
import type { Edits } from "../document/useEdits";
import { Small, sayLeft } from "../drawing/Finding";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";

export type ShelfPocketProps = { copies: number; edits: Edits };

export function ShelfPocket({ copies, edits }: ShelfPocketProps) {
  const cache = useQueryClient();
  const [open, setOpen] = useState(false);
  const { data: findings, error } = useFindings(open);
  const take = (finding: FindingView) => {
    edits.ask(async (at) => {
      const made = await takeFinding(finding.id, at, 1);
      await cache.invalidateQueries({ queryKey: ["findings"] });
      return made;
    });
    setOpen(false);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button className="!min-h-9 !px-2.5">Off the shelf</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="The shelf"
          className="z-20 max-h-[70vh] w-96 overflow-y-auto rounded-lg border border-hair bg-raised p-4"
        >
          <FaultList error={error} />
          {findings?.length === 0 && (
            <p className="text-[15px] text-quiet">
              Nothing is on the shelf. When a run is over, what it made can be put there, and pieces to come
              take it as it is.
            </p>
          )}
          <ul>
            {findings?.map((finding) => (
              <li
                key={finding.id}
                className="flex items-center gap-3 border-b border-hair py-2 last:border-0"
              >
                <Small finding={finding} />
                <span className="min-w-0 flex-1">
                  <b className="block truncate font-semibold">{finding.name}</b>
                  <span className="text-[14px] text-quiet">{sayLeft(finding)}</span>
                </span>
                <Button
                  disabled={finding.left < copies || finding.picture === null}
                  onClick={() => take(finding)}
                  aria-label={`Take ${finding.name}`}
                >
                  {copies > 1 ? `Take ${String(copies)}, one each` : "Take one"}
                </Button>
              </li>
            ))}
          </ul>
          <p className="mt-2 text-[14px] text-quiet">
            Counted on the{" "}
            <Link to="/bench" className="text-accent underline">
              Bench
            </Link>
            . Its joins keep their solders: what is soldered to it goes softer.
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
