import { describe, expect, test } from "vitest";
import type { PieceDocument } from "../src/api/types";
import { type BrokenDemand, type Conflict, remediesOf, type Shelf } from "../src/document/remedies";

const join = (id: string) => ({
  id,
  name: "",
  solder: null,
  grade: null,
  by_hand: null,
  after: [],
  shields: [],
});
const document = {
  joins: ["rim", "foot"].map(join),
  work: [],
  bench: { solders: ["us-easy"] },
} as unknown as PieceDocument;
const solder = (id: string, grade: string, cadmium = false) => ({
  id,
  name: grade,
  family: "us",
  grade,
  cadmium,
});
const shelf = {
  mostShieldC: 60,
  solders: [solder("us-hard", "hard"), solder("us-easy", "easy"), solder("us-bad", "medium", true)],
  stocked: ["us-easy"],
} as unknown as Shelf;
const coded = (kind: string, code: string, ...ids: string[]): BrokenDemand =>
  ({ kind, code, ids }) as unknown as BrokenDemand;
const demand = (kind: string, ...ids: string[]) => coded(kind, kind, ...ids);
const ways = (piece: PieceDocument, kind: string, code: string, ...ids: string[]) => {
  const one = coded(kind, code, ...ids);
  return remediesOf(piece, { demands: [one] } as unknown as Conflict, one, shelf);
};
const offered = (...demands: BrokenDemand[]) => {
  const conflict = { demands } as unknown as Conflict;
  return demands.map((one) => remediesOf(document, conflict, one, shelf));
};

describe("the ways out of a conflict", () => {
  test("a stock that lacks a grade is filled with what the family has, cadmium left out", () => {
    const [[remedy] = []] = offered(demand("stock"));
    expect(remedy?.change(document).bench?.solders).toEqual(["us-easy", "us-hard"]);
  });
  test("a stock that has them all offers nothing", () => {
    const full = { ...shelf, stocked: ["us-easy", "us-hard"] } as unknown as Shelf;
    const conflict = { demands: [demand("stock")] } as unknown as Conflict;
    expect(remediesOf(document, conflict, demand("stock"), full)).toEqual([]);
  });
  test("a join that would run again is held, or kept wet during the other's heat", () => {
    const [ways = []] = offered(demand("hold", "rim"), demand("order", "rim", "foot"));
    const made = ways.map((way) => way.change(document).joins[0]);
    expect(made).toHaveLength(2);
    expect(made[0]).toMatchObject({ holds: "bound", bound_with: "other" });
    expect(made[1]?.shields).toEqual([{ during: "foot", degrees_c: 60, how: "wet" }]);
  });
  test("one heat for both is offered where no order stands against it", () => {
    const [ways = []] = offered(demand("hold", "rim"), demand("fixed", "foot"));
    const shared = ways[1]?.change(document).joins[1];
    expect(shared?.by_hand?.shares).toEqual(["rim"]);
  });
  test("metals have no way out by a key", () => {
    expect(offered(demand("melt", "rim"))).toEqual([[]]);
  });
});

describe("letting a demand go", () => {
  const piece = {
    joins: [
      { id: "rim", name: "Rim", between: ["a", "b"], after: ["foot"], solder: "us-easy", holds: "hand" },
      { id: "foot", name: "", between: ["a", "c"], after: [], holds: "hand" },
    ],
    work: [{ id: "bend", after: [], before: ["foot"] }],
    house: {},
  } as unknown as PieceDocument;
  const changed = (kind: string, code: string, ...ids: string[]) =>
    ways(piece, kind, code, ...ids)[0]?.change(piece);

  test("lets an order go on whichever side it was told, and leaves the rest", () => {
    expect(changed("order", "order", "foot", "rim")?.joins[0]?.after).toEqual([]);
    expect(changed("order", "order", "bend", "foot")?.work[0]?.before).toEqual([]);
    expect(changed("order", "order", "bend", "foot")?.joins[0]?.after).toEqual(["foot"]);
    expect(piece.joins[0]?.after).toEqual(["foot"]);
  });

  test("frees a solder, binds a join, allows both families", () => {
    expect(changed("fixed", "fixed", "rim")?.joins[0]).toMatchObject({ solder: null, grade: null });
    expect(changed("hold", "remelt-flows", "foot")?.joins[1]).toMatchObject({
      holds: "bound",
      bound_with: "other",
    });
    expect(changed("family", "no-stock")?.house.family).toBe("mixed");
  });

  test.each([
    ["suits", "no-stock", "rim"],
    ["melt", "melt-certain", "a"],
    ["order", "stone-in-heat", "rim", "set"],
    ["fixed", "fixed", "nowhere"],
  ])("offers nothing for %s of %s", (kind, code, ...ids) =>
    expect(ways(piece, kind, code, ...ids)).toEqual([]),
  );
});
