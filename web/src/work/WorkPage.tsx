import { useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { useRef, useState } from "react";
import { Refusal } from "../api/client";
import { beginPieceFrom, putPieceAway, useLine, usePieces, useRail } from "../api/queries";
import type { PieceLine, RailEntry } from "../api/types";
import { PictureView } from "../drawing/PictureView";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { useSeen } from "../parts/useSeen";
import { counted } from "../parts/words";
import { ActionKey } from "../shell/ActionKey";
import { useKeys } from "../shell/keys";

/** Work: every piece on the go and what it waits for. */
export function WorkPage() {
  const pieces = usePieces();
  const rail = useRail();
  const [showAway, setShowAway] = useState(false);
  const lines = pieces.data ?? [];
  const away = lines.filter((line) => line.put_away);
  const shown = lines.filter((line) => !line.put_away || showAway);
  const running = new Map((rail.data?.entries ?? []).map((entry) => [entry.piece_name, entry]));
  return (
    <div className="mx-auto max-w-[1160px] px-7 py-5">
      <header className="flex items-center justify-between gap-6">
        <h1 className="text-[26px] font-bold">Work</h1>
        <BeginPiece />
      </header>
      <FaultList error={pieces.error} />
      {pieces.isSuccess && lines.length === 0 && <Nothing />}
      <ul className="mt-4 border-t border-hair">
        {shown.map((line) => (
          <Line key={line.id} line={line} running={running.get(line.name)} />
        ))}
      </ul>
      {away.length > 0 && (
        <Button look="bare" className="mt-3" onClick={() => setShowAway(!showAway)}>
          {showAway ? "Hide what is put away" : `Show ${away.length} put away`}
        </Button>
      )}
    </div>
  );
}

function Nothing() {
  return (
    <p className="mt-16 max-w-lg text-lg text-quiet">
      Nothing is on the bench. Begin from one of the starts, or from nothing: first the parts, then what joins
      them; the heats follow by themselves.
    </p>
  );
}

function Line({ line: told, running }: { line: PieceLine; running: RailEntry | undefined }) {
  const [row, seen] = useSeen<HTMLLIElement>();
  const asked = useLine(told, seen);
  const line = asked.data ?? told;
  const pieces = useQueryClient();
  const put = async () => {
    await putPieceAway(line.id, !line.put_away);
    await pieces.invalidateQueries({ queryKey: ["pieces"] });
  };
  return (
    <li
      ref={row}
      className={`group flex items-center border-b border-hair ${line.put_away ? "opacity-60" : ""}`}
    >
      <Link
        to="/work/$piece"
        params={{ piece: String(line.id) }}
        className="flex min-w-0 flex-1 items-center gap-6 py-2.5 hover:bg-sunk"
      >
        <span className="block h-14 w-24 shrink-0 text-metal" aria-hidden>
          {line.picture && <PictureView picture={line.picture} size={[96, 56]} plain />}
        </span>
        <span className="w-72 shrink-0 truncate text-[19px] font-semibold">{line.name}</span>
        <span className="w-48 shrink-0 text-[16px] text-quiet">
          {line.status !== "unplanned" && `${counted(line.parts, "part")} · ${counted(line.joins, "join")}`}
        </span>
        <span
          className={`min-w-0 truncate text-[16px] ${["impossible", "unreadable"].includes(line.status) ? "text-alarm" : ""}`}
        >
          {running ? (
            <b className="font-semibold text-accent">
              running: step {running.position} of {running.total}
            </b>
          ) : line.status === "unplanned" ? (
            <span className="text-quiet">{asked.error ? String(asked.error) : "being planned…"}</span>
          ) : (
            <>
              <span className="text-quiet">waits for </span>
              {line.waits_for}
            </>
          )}
        </span>
      </Link>
      <Button
        look="bare"
        className="opacity-0 group-focus-within:opacity-100 group-hover:opacity-100"
        onClick={() => void put()}
      >
        {line.put_away ? "Take out" : "Put away"}
      </Button>
    </li>
  );
}

function BeginPiece() {
  const [error, setError] = useState<unknown>(null);
  const file = useRef<HTMLInputElement>(null);
  const go = useNavigate();
  useKeys({ "work.begin": () => void go({ to: "/begin" }) });
  const read = async (chosen: File | undefined) => {
    if (!chosen) return;
    try {
      const made = await beginPieceFrom(asObject(await chosen.text()));
      await go({ to: "/work/$piece", params: { piece: String(made.id) } });
    } catch (problem) {
      setError(problem);
    }
    if (file.current) file.current.value = "";
  };
  return (
    <div className="flex flex-col items-end gap-2">
      <div className="flex items-center gap-3">
        <Button onClick={() => file.current?.click()}>Open a file</Button>
        <input
          ref={file}
          type="file"
          accept=".json"
          className="hidden"
          aria-label="Piece file"
          onChange={(event) => void read(event.target.files?.[0])}
        />
        <ActionKey of="work.begin" />
        <Button look="main" className="!px-6" onClick={() => void go({ to: "/begin" })}>
          Begin
        </Button>
      </div>
      <FaultList error={error} />
    </div>
  );
}

function asObject(text: string): Record<string, unknown> {
  try {
    const plain: unknown = JSON.parse(text);
    if (plain && typeof plain === "object" && !Array.isArray(plain)) return plain as Record<string, unknown>;
  } catch {
    // told below, like everything else that is no piece file
  }
  throw new Refusal([
    {
      code: "bad-json",
      path: "",
      value: null,
      rule: "a piece file is one JSON object",
      remedy: "Choose another file.",
    },
  ]);
}
