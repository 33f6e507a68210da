/** Pointing at parts: letters that stand on them, and what a proposal changes in a document. */
import type { PieceDocument, ProposalView } from "../api/types";

const LETTERS = "asdfghklqweruiopzxcvbnmty";

/** A letter for each part, those under the fingers first; past those, two letters. */
export function lettersOf(ids: readonly string[]): Record<string, string> {
  const short = ids.length <= LETTERS.length;
  return Object.fromEntries(
    ids.map((id, n) => {
      const one = LETTERS[n % LETTERS.length] ?? "a";
      return [id, short ? one : `${LETTERS[Math.floor(n / LETTERS.length)] ?? "a"}${one}`];
    }),
  );
}

/** The part that is pointed at by what was typed so far; null while more may follow, undefined where none begins so. */
export function pointedBy(letters: Record<string, string>, typed: string): string | null | undefined {
  const found = Object.entries(letters).find(([, letter]) => letter === typed);
  if (found) return found[0];
  return Object.values(letters).some((letter) => letter.startsWith(typed)) ? null : undefined;
}

/** A document with a proposed join, and with what changes with it at others. */
export function withProposal(document: PieceDocument, made: ProposalView): PieceDocument {
  const changed = document.joins.map((join) => {
    const own = made.also.filter((one) => one.join === join.id);
    return { ...join, ...Object.fromEntries(own.map((one) => [one.key, one.value])) };
  });
  return { ...document, joins: [...changed, made.join] };
}
