/** What comes after a run: the run that went on from it, a piece begun from what it made, what goes on the shelf. */
import { useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { beginFromRun, putOnShelf, useKin } from "../api/queries";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { NumberField, TextField } from "../parts/Field";
import { Closing, Panel } from "../parts/Panel";

/** Which run this one goes on from, and which went on from it. */
export function Kin({ run, className = "" }: { run: number; className?: string }) {
  const kin = useKin(run).data;
  const told = [
    ["before", "It goes on from an earlier run", kin?.before],
    ["after", "What was left was planned anew: it went on as another run", kin?.after],
  ] as const;
  return told.map(([key, words, other]) =>
    other ? (
      <p key={key} className={className}>
        <Link to="/log/$run" params={{ run: String(other) }} className="text-accent underline">
          {words}
        </Link>
        .
      </p>
    ) : null,
  );
}

/** Begin a piece from what a run made, or put that on the shelf. */
export function Onwards({ run, name }: { run: number; name: string }) {
  const go = useNavigate();
  const [error, setError] = useState<unknown>(null);
  const begin = async () => {
    const piece = await beginFromRun(run);
    await go({ to: "/work/$piece", params: { piece: String(piece.id) } });
  };
  return (
    <>
      <div className="flex flex-wrap gap-3">
        <OnShelf run={run} name={name} />
        <Button className="min-h-16 px-6 text-[18px]" onClick={() => void begin().catch(setError)}>
          Begin a piece from what was made
        </Button>
      </div>
      <FaultList error={error} />
    </>
  );
}

function OnShelf({ run, name }: { run: number; name: string }) {
  const cache = useQueryClient();
  const [open, setOpen] = useState(false);
  const [called, setCalled] = useState(name);
  const [left, setLeft] = useState(1);
  const [kept, setKept] = useState("");
  const [error, setError] = useState<unknown>(null);
  const put = async () => {
    setError(null);
    try {
      const finding = await putOnShelf(run, called, left);
      await cache.invalidateQueries({ queryKey: ["findings"] });
      setKept(`${String(finding.left)} on the shelf`);
      setOpen(false);
    } catch (problem) {
      setError(problem);
    }
  };
  return (
    <Panel
      title="Onto the shelf"
      width="narrow"
      open={open}
      onOpen={setOpen}
      trigger={
        <Button className="min-h-16 px-6 text-[18px]" disabled={kept !== ""}>
          {kept || "Put it on the shelf"}
        </Button>
      }
      foot={
        <>
          <Closing>
            <Button look="bare" className="min-h-14">
              Not now
            </Button>
          </Closing>
          <Button look="main" className="min-h-14 px-8" onClick={() => void put()}>
            Put it there
          </Button>
        </>
      }
    >
      <p className="mt-2 text-[17px] text-quiet">
        As a finished finding: other pieces take it with its joins as they are, and what is soldered to it
        takes account of their solder.
      </p>
      <div className="mt-3 grid grid-cols-[1fr_8rem] gap-4">
        <TextField label="Called" value={called} onCommit={setCalled} />
        <NumberField label="How many" whole value={left} onCommit={setLeft} />
      </div>
      <FaultList error={error} />
    </Panel>
  );
}
