/**
 * Edits of one piece, one after another. The document on screen changes at once; picture and plan follow with
 * the server's answer. When an edit is refused, what still waits is let go and the piece is read afresh.
 */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { redoPiece, revisePiece, undoPiece } from "../api/queries";
import type { PieceDocument, PieceView } from "../api/types";

export type Edits = {
  apply: (what: string, change: (document: PieceDocument) => PieceDocument) => void;
  undo: () => void;
  redo: () => void;
  saving: boolean;
  error: unknown;
};

export function useEdits(key: number): Edits {
  const cache = useQueryClient();
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const waiting = useRef(0);
  const turn = useRef(0);
  const [saving, setSaving] = useState(false);
  const [error, setError] = useState<unknown>(null);

  const standing = useCallback(() => cache.getQueryData<PieceView>(["piece", key]), [cache, key]);
  const settle = useCallback(
    (made: PieceView) => {
      const shown = standing();
      const ahead = waiting.current > 1 && shown ? shown.document : made.document;
      cache.setQueryData(["piece", key], { ...made, document: ahead });
      void cache.invalidateQueries({ queryKey: ["pieces"] });
      setError(null);
    },
    [cache, key, standing],
  );

  const run = useCallback(
    (step: (at: PieceView) => Promise<PieceView>) => {
      const mine = turn.current;
      waiting.current += 1;
      setSaving(true);
      const carryOut = async () => {
        const at = standing();
        if (!at || mine !== turn.current) return;
        await cache.cancelQueries({ queryKey: ["piece", key] });
        settle(await step(at));
      };
      queue.current = queue.current
        .then(carryOut)
        .catch((problem: unknown) => {
          turn.current += 1;
          setError(problem);
          return cache.invalidateQueries({ queryKey: ["piece", key] });
        })
        .finally(() => {
          waiting.current -= 1;
          setSaving(waiting.current > 0);
        });
    },
    [cache, key, settle, standing],
  );

  const apply: Edits["apply"] = (what, change) => {
    const view = standing();
    if (!view) return;
    const document = change(view.document);
    cache.setQueryData(["piece", key], { ...view, document });
    run((at) => revisePiece(at, document, what));
  };
  return { apply, undo: () => run(undoPiece), redo: () => run(redoPiece), saving, error };
}
