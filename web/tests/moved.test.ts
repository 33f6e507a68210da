import { describe, expect, it } from "vitest";
import type { Join, PieceDocument, PieceView } from "../src/api/types";
import { STILL } from "../src/drawing/drag";
import { movedBy, tiedTo } from "../src/piece/moved";
import { withJoin } from "./made";
import { recorded } from "./wire";

const VIEW = recorded<PieceView>("GET /api/pieces/4");
const [FIRST, SECOND, THIRD] = VIEW.document.parts.map(({ id }) => id) as [string, string, string];

/** The demo's brooch without its joins, with some of its parts joined already. */
function joined(...pairs: [string, string][]): PieceDocument {
  const bare = { ...VIEW.document, joins: [] };
  const made = pairs.reduce<PieceDocument>((now, pair) => withJoin(now, ...pair), bare);
  return { ...made, joins: made.joins.map((join): Join => ({ ...join, made: true, at: [1, 2] })) };
}
const placeOf = (document: PieceDocument, id: string) => document.parts.find((part) => part.id === id)?.place;

describe("what is joined already", () => {
  it("hangs together, however far apart", () => {
    const document = joined([FIRST, SECOND], [THIRD, SECOND]);
    expect([...tiedTo(document, FIRST)].sort()).toEqual([FIRST, SECOND, THIRD].sort());
    expect([...tiedTo(joined([FIRST, SECOND]), THIRD)]).toEqual([THIRD]);
  });

  it("does not by joins that are still to be made", () => {
    const document = withJoin({ ...VIEW.document, joins: [] }, FIRST, SECOND);
    expect([...tiedTo(document, FIRST)]).toEqual([FIRST]);
  });

  it("is moved together, with where it is joined, and is not turned", () => {
    const by = { ...STILL, x: 2, y: -1, turn: 15 };
    const before = joined([FIRST, SECOND]);
    const after = movedBy(before, VIEW.picture, FIRST, by);
    const drawn = (id: string) => VIEW.picture.parts.find(({ part }) => part === id);
    for (const id of [FIRST, SECOND]) {
      expect(placeOf(after, id)?.x_mm).toBeCloseTo((drawn(id)?.x_mm ?? 0) + 2, 1);
      expect(placeOf(after, id)?.turn_deg).toBe(placeOf(before, id)?.turn_deg ?? 0);
    }
    expect(placeOf(after, THIRD)).toEqual(placeOf(before, THIRD));
    expect(after.joins[0]?.at).toEqual([3, 1]);
  });

  it("leaves a single part to be turned", () => {
    const after = movedBy(joined(), VIEW.picture, FIRST, { ...STILL, turn: 15 });
    expect(placeOf(after, FIRST)?.turn_deg).toBe((placeOf(VIEW.document, FIRST)?.turn_deg ?? 0) + 15);
  });
});
