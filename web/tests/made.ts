/** Small documents for tests. */
import type { Join, PieceDocument } from "../src/api/types";
import { freshId } from "../src/document/edit";

/** A document with one more plain join, between its last two parts. */
export function withJoin(document: PieceDocument, ...ends: string[]): PieceDocument {
  const last = document.parts.slice(-2).map((part) => part.id);
  const between = ends.length > 0 ? ends : last.length === 1 ? [...last, ...last] : last;
  const join: Join = {
    id: freshId(
      "join",
      [...document.joins, ...document.work].map((one) => one.id),
    ),
    name: "",
    kind: between[0] === between[1] ? "butt" : "tee",
    between,
    holds: "own-weight",
    face: "front",
    visible: false,
    structural: false,
    resized_later: false,
    beside_detail: false,
    brought_in: null,
    through: [],
    shields: [],
    after: [],
    made: false,
  };
  return { ...document, joins: [...document.joins, join] };
}
