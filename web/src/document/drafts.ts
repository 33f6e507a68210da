/**
 * Drafts: what was changed on screen and is not saved yet, kept in the browser until it is. A tab that is closed, or a
 * machine that dies, loses none of it.
 */
import type { PieceDocument } from "../api/types";

export type Draft = { revision: number; document: PieceDocument; what: string; at: string };

const nameOf = (piece: number) => `eskel-draft-${String(piece)}`;

/** The store may be full or closed to us: then a draft lives as long as its tab. */
function quietly<T>(act: () => T): T | null {
  try {
    return act();
  } catch {
    return null;
  }
}

export function keepDraft(piece: number, draft: Draft, store: Storage = localStorage): void {
  quietly(() => store.setItem(nameOf(piece), JSON.stringify(draft)));
}

export function letDraftGo(piece: number, store: Storage = localStorage): void {
  quietly(() => store.removeItem(nameOf(piece)));
}

/** The draft of a piece, if one was left behind; one that cannot be read is none. */
export function draftOf(piece: number, store: Storage = localStorage): Draft | null {
  const text = quietly(() => store.getItem(nameOf(piece)));
  if (!text) return null;
  const plain = quietly(() => JSON.parse(text) as Partial<Draft>);
  return plain && typeof plain.revision === "number" && typeof plain.document === "object" && plain.document
    ? { what: "changed", at: "", ...(plain as Pick<Draft, "revision" | "document">) }
    : null;
}
