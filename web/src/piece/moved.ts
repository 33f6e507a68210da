/** A part that is moved on the picture: what is joined to it already goes with it. */
import type { Join, PieceDocument, PieceView } from "../api/types";
import { type Move, placeAfter } from "../drawing/drag";

/** The parts that hang together with one by joins that are made already, itself among them. */
export function tiedTo(document: PieceDocument, part: string): Set<string> {
  const tied = new Set([part]);
  const ends = document.joins
    .filter(({ made }) => made)
    .map(({ between }) => between.map((end) => end.split("#")[0] ?? end));
  for (let grew = true; grew; ) {
    const more = ends.filter((pair) => pair.some((end) => tied.has(end))).flat();
    grew = more.some((end) => !tied.has(end));
    for (const end of more) tied.add(end);
  }
  return tied;
}

/** A document in which a part is moved; what is tied to it goes along, and is not turned. */
export function movedBy(
  document: PieceDocument,
  picture: PieceView["picture"],
  id: string,
  by: Move,
): PieceDocument {
  const tied = tiedTo(document, id);
  const along = tied.size > 1 ? { ...by, turn: 0 } : by;
  const within = (join: Join) => join.made && join.between.every((end) => tied.has(end.split("#")[0] ?? end));
  return {
    ...document,
    parts: document.parts.map((part) =>
      tied.has(part.id) ? { ...part, place: placeAfter(part, picture, along) } : part,
    ),
    joins: document.joins.map((join) => (within(join) ? { ...join, at: spotAfter(join.at, along) } : join)),
  };
}

function spotAfter(at: Join["at"], { x, y }: Move): Join["at"] {
  if (!at) return at;
  const move = ([left, top]: number[]): [number, number] => [(left ?? 0) + x, (top ?? 0) + y];
  return typeof at[0] === "number" ? move(at as number[]) : (at as number[][]).map(move);
}
