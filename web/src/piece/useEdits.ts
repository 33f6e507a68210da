/** Edits of one piece, one after another, each based on what the last one came to. */
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
  forget: () => void;
};

export function useEdits(key: number): Edits {
  const cache = useQueryClient();
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const [waiting, setWaiting] = useState(0);
  const [error, setError] = useState<unknown>(null);

  const run = useCallback(
    (step: (at: PieceView) => Promise<PieceView>) => {
      setWaiting((count) => count + 1);
      queue.current = queue.current
        .then(async () => {
          const at = cache.getQueryData<PieceView>(["piece", key]);
          if (!at) return;
          const made = await step(at);
          await cache.cancelQueries({ queryKey: ["piece", key] });
          cache.setQueryData(["piece", key], made);
          setError(null);
          void cache.invalidateQueries({ queryKey: ["pieces"] });
        })
        .catch((problem: unknown) => {
          setError(problem);
          void cache.invalidateQueries({ queryKey: ["piece", key] });
        })
        .finally(() => setWaiting((count) => count - 1));
    },
    [cache, key],
  );
  return {
    apply: (what, change) => run((at) => revisePiece(at, change(at.document), what)),
    undo: () => run(undoPiece),
    redo: () => run(redoPiece),
    saving: waiting > 0,
    error,
    forget: () => setError(null),
  };
}
