/**
 * Edits of one piece. The document on screen changes at once and is kept as a draft; picture and plan follow with the
 * server's answer. One request is under way and at most one waits, which sends whatever stands when its turn comes: what
 * is changed meanwhile is one edit with it. While the server is away it is asked again until it answers.
 */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { clashes, passes } from "../api/client";
import { redoPiece, revisePiece, undoPiece } from "../api/queries";
import type { PieceDocument, PieceView } from "../api/types";
import { type Draft, draftOf, keepDraft, letDraftGo } from "./drafts";
import { WaitingEdit } from "./waiting";

export type Edits = {
  apply: (what: string, change: (document: PieceDocument) => PieceDocument) => void;
  undo: () => void;
  redo: () => void;
  /** Have the server change it; what is not saved yet is saved before. */
  ask: (step: Step) => void;
  /** Whether anything is not saved yet, and whether the server is away meanwhile. */
  saving: boolean;
  away: boolean;
  error: unknown;
  /** Changes that an earlier tab left unsaved. */
  found: Draft | null;
  takeUp: () => void;
  letGo: () => void;
};

type Step = (at: PieceView) => Promise<PieceView>;
const LONGEST_PAUSE_MS = 8_000;

export function useEdits(key: number): Edits {
  const cache = useQueryClient();
  const [waiting] = useState(() => new WaitingEdit());
  const [found, setFound] = useState<Draft | null>(() => draftOf(key));
  const [error, setError] = useState<unknown>(null);
  const standing = useCallback(() => cache.getQueryData<PieceView>(["piece", key]), [cache, key]);

  const settle = (made: PieceView) => {
    const shown = standing();
    cache.setQueryData(["piece", key], waiting.asked && shown ? { ...made, document: shown.document } : made);
    if (!waiting.asked) letDraftGo(key);
    void cache.invalidateQueries({ queryKey: ["pieces"] });
    // What a change took off the shelf is back on it when that is undone.
    void cache.invalidateQueries({ queryKey: ["findings"] });
    setError(null);
  };
  const send = useMutation({
    scope: { id: `piece-${String(key)}` },
    networkMode: "always",
    retry: (_, problem) => passes(problem),
    retryDelay: (tries) => Math.min(500 * 2 ** tries, LONGEST_PAUSE_MS),
    mutationFn: async (step: Step) => {
      const at = standing();
      if (!at) throw new Error("the piece is not open");
      await cache.cancelQueries({ queryKey: ["piece", key] });
      return step(at);
    },
    onSuccess: settle,
    onError: (problem) => {
      waiting.take();
      setError(problem);
      // What was changed on a piece that has gone on elsewhere is not on the screen any more: it is offered again.
      if (clashes(problem)) setFound(draftOf(key));
      return cache.invalidateQueries({ queryKey: ["piece", key] });
    },
  });

  const apply: Edits["apply"] = (what, change) => {
    const view = standing();
    if (!view) return;
    const document = change(view.document);
    cache.setQueryData(["piece", key], { ...view, document });
    const words = waiting.add(what);
    keepDraft(key, { revision: view.revision, document, what: words, at: new Date().toISOString() });
    setFound(null);
    if (waiting.asked) return;
    waiting.asked = true;
    let called = "";
    send.mutate((at) => {
      // Asked again while the server is away, it is still the same edit.
      called = called || waiting.take() || what;
      return revisePiece(at, at.document, called);
    });
  };
  useUnsavedAsked(send.isPending);
  const view = standing();
  const left = found && view && !send.isPending && differs(found.document, view.document) ? found : null;
  return {
    apply,
    undo: () => send.mutate(undoPiece),
    redo: () => send.mutate(redoPiece),
    ask: (step) => send.mutate(step),
    saving: send.isPending,
    away: send.isPending && send.failureCount > 0,
    error,
    found: left,
    takeUp: () => left && apply(left.what, () => left.document),
    letGo: () => {
      letDraftGo(key);
      setFound(null);
    },
  };
}

const differs = (one: PieceDocument, other: PieceDocument) => JSON.stringify(one) !== JSON.stringify(other);

/** A tab with something unsaved asks before it closes; what is still being typed is entered first. */
function useUnsavedAsked(unsaved: boolean): void {
  const now = useRef(unsaved);
  now.current = unsaved;
  useEffect(() => {
    const enter = () => document.activeElement instanceof HTMLElement && document.activeElement.blur();
    const ask = (event: BeforeUnloadEvent) => {
      const typing = document.activeElement instanceof HTMLInputElement;
      enter();
      if (now.current || typing) event.preventDefault();
    };
    window.addEventListener("beforeunload", ask);
    window.addEventListener("pagehide", enter);
    return () => {
      window.removeEventListener("beforeunload", ask);
      window.removeEventListener("pagehide", enter);
    };
  }, []);
}
