import type { Join } from "../api/types";
import { optionsOf } from "../parts/Select";

/** How solder can be placed. */
export const PLACINGS = optionsOf<NonNullable<Join["placing"]>>({
  "chips-under": "chips under",
  "chips-over": "chips over",
  paste: "paste",
  "fed-wire": "fed wire",
  pick: "pick",
  sweat: "sweated on first",
});

/** From where a heat is heated. */
export const FLAMES = optionsOf<NonNullable<Join["heat_from"]>>({ above: "above", below: "below" });
