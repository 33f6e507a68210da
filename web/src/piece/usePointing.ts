/** Pointing at one part and at another, by mouse or by letters: the core proposes the join, which stands until it is taken or let go. */
import { useEffect, useRef, useState } from "react";
import { proposeJoin } from "../api/queries";
import type { PieceDocument, ProposalView } from "../api/types";
import { titleOf } from "../document/edit";
import type { Edits } from "../document/useEdits";
import type { Selection } from "../drawing/PictureView";
import { heard } from "../shell/keys";
import { lettersOf, pointedBy, withProposal } from "./pointing";

export type Pointing = {
  /** Letters on the parts while pointing; undefined otherwise. */
  letters: Record<string, string> | undefined;
  first: string | null;
  proposed: ProposalView | null;
  error: unknown;
  begin: () => void;
  stop: () => void;
  point: (part: string) => void;
  take: () => void;
};

export function usePointing(
  document: PieceDocument,
  edits: Edits,
  onSelect: (chosen: Selection) => void,
): Pointing {
  const [on, setOn] = useState(false);
  const [first, setFirst] = useState<string | null>(null);
  const [proposed, setProposed] = useState<ProposalView | null>(null);
  const [error, setError] = useState<unknown>(null);
  const typed = useRef("");
  const letters = on && !proposed ? lettersOf(document.parts.map((part) => part.id)) : undefined;

  const stop = () => {
    setOn(false);
    setFirst(null);
    setProposed(null);
    setError(null);
    typed.current = "";
  };
  const begin = () => {
    stop();
    setOn(true);
  };
  const point = (part: string) => {
    typed.current = "";
    if (first === null) {
      setFirst(part);
      return;
    }
    setError(null);
    proposeJoin(document, first, part).then(setProposed, (problem: unknown) => {
      setFirst(null);
      setError(problem);
    });
  };
  const take = () => {
    if (!proposed) return;
    const { join } = proposed;
    edits.apply(`joined ${titleOf(join)}`, (now) => withProposal(now, proposed));
    onSelect({ kind: "join", id: join.id });
    stop();
  };
  const act = useRef({ letters, proposed, stop, point, take });
  act.current = { letters, proposed, stop, point, take };
  useEffect(() => {
    if (!on) return;
    const listen = (event: KeyboardEvent) => {
      const now = act.current;
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
      heard(event, { "point.leave": now.stop, "point.take": now.proposed ? now.take : undefined });
      if (!event.defaultPrevented && now.letters && event.key.length === 1) {
        typed.current += event.key.toLowerCase();
        const found = pointedBy(now.letters, typed.current);
        if (found) now.point(found);
        else if (found === undefined) typed.current = "";
        event.preventDefault();
      }
      if (event.defaultPrevented) event.stopPropagation();
    };
    // Before any key of the page: while pointing, letters are parts.
    window.addEventListener("keydown", listen, { capture: true });
    return () => window.removeEventListener("keydown", listen, { capture: true });
  }, [on]);
  return { letters, first, proposed, error, begin, stop, point, take };
}
