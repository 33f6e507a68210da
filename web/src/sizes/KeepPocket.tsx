import { useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { Popover } from "radix-ui";
import { useState } from "react";
import { keepSize, usePieces } from "../api/queries";
import type { PieceView } from "../api/types";
import { lastPiece } from "../document/lastPiece";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { Choice, TextField } from "../parts/Field";

export type KeepPocketProps = { name: string; title: string; sent: Record<string, unknown> };

/** Keep a result to a piece: as a part of it, or as a line of its cut list. */
export function KeepPocket({ name, title, sent }: KeepPocketProps) {
  const pieces = usePieces();
  const cache = useQueryClient();
  const [piece, setPiece] = useState("");
  const [keptAs, setKeptAs] = useState<"part" | "cut">("part");
  const [called, setCalled] = useState(title);
  const [kept, setKept] = useState<PieceView | null>(null);
  const [error, setError] = useState<unknown>(null);
  const open = (pieces.data ?? []).filter((one) => !one.put_away);
  const last = open.find((one) => String(one.id) === lastPiece());
  const chosen = piece || String((last ?? open[0])?.id ?? "");
  const keep = async () => {
    try {
      const view = await keepSize(name, sent, Number(chosen), keptAs, called);
      cache.setQueryData(["piece", view.id], view);
      void cache.invalidateQueries({ queryKey: ["pieces"] });
      setKept(view);
      setError(null);
    } catch (problem) {
      setError(problem);
    }
  };
  return (
    <Popover.Root onOpenChange={() => setKept(null)}>
      <Popover.Trigger asChild>
        <Button look="main">Keep to a piece</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="z-20 w-80 space-y-3 rounded-lg border border-hair bg-raised p-4"
        >
          {kept ? (
            <p className="text-[16px]">
              Kept to{" "}
              <Link to="/work/$piece" params={{ piece: String(kept.id) }} className="text-accent underline">
                {kept.document.name}
              </Link>
              . It can be undone there.
            </p>
          ) : open.length === 0 ? (
            <p className="text-quiet">No piece is on the bench: begin one in Work.</p>
          ) : (
            <>
              <Choice
                label="Piece"
                value={chosen}
                options={open.map((one) => [String(one.id), one.name] as const)}
                onChoose={setPiece}
              />
              <Choice
                label="As"
                value={keptAs}
                options={[
                  ["part", "a part of it"],
                  ["cut", "a line of its cut list"],
                ]}
                onChoose={setKeptAs}
              />
              <TextField label="Name" value={called} onCommit={setCalled} />
              <FaultList error={error} />
              <Button look="main" className="w-full" onClick={() => void keep()}>
                Keep it
              </Button>
            </>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
