import { Button } from "../parts/Button";
import type { Edits } from "./useEdits";

/** The one quiet place that tells what is saved. */
export function SaveState({ edits }: { edits: Edits }) {
  const words = edits.away
    ? "not saved yet: Eskel does not answer; it is kept here until it does"
    : edits.saving
      ? "saving…"
      : "saved";
  return (
    <span role="status" className={`text-[14px] ${edits.away ? "text-warn" : "text-quiet"}`}>
      {words}
    </span>
  );
}

/** Changes that an earlier tab left unsaved: taken up or let go, and nothing of them is lost before that. */
export function FoundDraft({ edits }: { edits: Edits }) {
  if (!edits.found) return null;
  return (
    <div
      role="alert"
      className="my-2 flex items-center gap-4 rounded border border-accent px-4 py-2 text-[16px]"
    >
      <span className="flex-1">
        Changes that were not saved are still here{whenOf(edits.found.at)}: {edits.found.what}.
      </span>
      <Button look="main" onClick={edits.takeUp}>
        Take them up
      </Button>
      <Button look="bare" onClick={edits.letGo}>
        Let them go
      </Button>
    </div>
  );
}

function whenOf(at: string): string {
  const time = new Date(at);
  return Number.isNaN(time.getTime())
    ? ""
    : `, from ${time.toLocaleString([], { dateStyle: "medium", timeStyle: "short" })}`;
}
