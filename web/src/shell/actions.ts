/** Actions and their keys: one table that the screens, the drawn keys and the overlay of keys (`?`) all read. */

export type Action = {
  label: string;
  /** By name as `nameOfKey` has it; the first is the one that is drawn. */
  keys: readonly [string, ...string[]];
  where: Place;
};

export type Place =
  | "anywhere"
  | "in a list"
  | "in the list of pieces"
  | "on a piece"
  | "on a piece or the bench"
  | "on the time of a rehearsal"
  | "on a heat or a join of the ladder"
  | "while pointing at parts"
  | "on a part of the picture"
  | "on a point of a bent wire"
  | "at the torch"
  | "at a drawing bench";

export const ACTIONS = {
  "help.open": { label: "Show the keys", keys: ["?"], where: "anywhere" },
  "palette.open": { label: "Find anything", keys: ["ctrl+k"], where: "anywhere" },
  "work.begin": { label: "Begin a piece", keys: ["n"], where: "in the list of pieces" },
  "list.find": { label: "Find", keys: ["/"], where: "in a list" },
  "piece.parts": { label: "Go to its parts and joins", keys: ["1"], where: "on a piece" },
  "piece.ladder": { label: "Go to its heats", keys: ["2"], where: "on a piece" },
  "piece.rehearsal": { label: "Go to its rehearsal", keys: ["3"], where: "on a piece" },
  "piece.steps": { label: "Go to its cut and solder list", keys: ["4"], where: "on a piece" },
  "piece.line": { label: "Say a part in a line", keys: ["l"], where: "on a piece" },
  "piece.join": { label: "Join parts by pointing", keys: ["j"], where: "on a piece" },
  "piece.view": { label: "See it from above, from the front, or both", keys: ["v"], where: "on a piece" },
  "point.leave": { label: "Leave off pointing", keys: ["escape"], where: "while pointing at parts" },
  "point.take": { label: "Join them as proposed", keys: ["enter"], where: "while pointing at parts" },
  "part.choose": { label: "Choose it", keys: ["enter", "space"], where: "on a part of the picture" },
  "part.left": {
    label: "To the left by half a millimetre",
    keys: ["arrowleft"],
    where: "on a part of the picture",
  },
  "part.right": { label: "To the right", keys: ["arrowright"], where: "on a part of the picture" },
  "part.up": { label: "Up the page", keys: ["arrowup"], where: "on a part of the picture" },
  "part.down": { label: "Down the page", keys: ["arrowdown"], where: "on a part of the picture" },
  "part.turn": { label: "Turn it by fifteen degrees", keys: ["]"], where: "on a part of the picture" },
  "part.turnBack": { label: "Turn it back", keys: ["["], where: "on a part of the picture" },
  "course.add": {
    label: "Put a point behind it",
    keys: ["+", "insert"],
    where: "on a point of a bent wire",
  },
  "course.out": {
    label: "Take the point out",
    keys: ["delete", "backspace"],
    where: "on a point of a bent wire",
  },
  "edit.undo": { label: "Undo", keys: ["ctrl+z"], where: "on a piece or the bench" },
  "edit.redo": { label: "Do it again", keys: ["ctrl+shift+z", "ctrl+y"], where: "on a piece or the bench" },
  "ladder.best": { label: "Back to the best plan", keys: ["b"], where: "on a piece" },
  "ladder.why": { label: "What else could the join be", keys: ["w"], where: "on a piece" },
  "ladder.pin": { label: "Pin the chosen join, or let it go", keys: ["p"], where: "on a piece" },
  "ladder.choose": {
    label: "Choose it",
    keys: ["enter", "space"],
    where: "on a heat or a join of the ladder",
  },
  "ladder.harder": {
    label: "A harder solder",
    keys: ["arrowup"],
    where: "on a heat or a join of the ladder",
  },
  "ladder.softer": {
    label: "A softer solder",
    keys: ["arrowdown"],
    where: "on a heat or a join of the ladder",
  },
  "ladder.before": {
    label: "The heat before",
    keys: ["arrowleft"],
    where: "on a heat or a join of the ladder",
  },
  "ladder.after": {
    label: "The heat after",
    keys: ["arrowright"],
    where: "on a heat or a join of the ladder",
  },
  "ladder.earlier": {
    label: "Into the heat before",
    keys: ["shift+arrowleft"],
    where: "on a heat or a join of the ladder",
  },
  "ladder.later": {
    label: "Into the heat after",
    keys: ["shift+arrowright"],
    where: "on a heat or a join of the ladder",
  },
  "ladder.own": {
    label: "A heat of its own",
    keys: ["o"],
    where: "on a heat or a join of the ladder",
  },
  "rehearsal.play": { label: "Play, or stop there", keys: ["space"], where: "on the time of a rehearsal" },
  "run.next": { label: "Next; the sign is seen", keys: ["space"], where: "at the torch" },
  "run.back": { label: "Back", keys: ["b"], where: "at the torch" },
  "run.tally": { label: "One more of what is alike is done", keys: ["t"], where: "at the torch" },
  "run.lost": { label: "One of what is alike is lost", keys: ["l"], where: "at the torch" },
  "run.note": { label: "Write a note", keys: ["n"], where: "at the torch" },
  "run.skip": { label: "Skip the step", keys: ["s"], where: "at the torch" },
  "run.rest": { label: "Plan what is left anew", keys: ["r"], where: "at the torch" },
  "run.close": { label: "Close the note", keys: ["escape"], where: "at the torch" },
  "making.done": { label: "The pass is done", keys: ["space"], where: "at a drawing bench" },
  "making.back": { label: "Take the last pass back", keys: ["backspace"], where: "at a drawing bench" },
} as const satisfies Record<string, Action>;

export type ActionId = keyof typeof ACTIONS;

const IDS = Object.keys(ACTIONS) as ActionId[];

/** The actions of a place, in the order of the table. */
export function actionsAt(where: Place): ActionId[] {
  return IDS.filter((id) => ACTIONS[id].where === where);
}

/** The action that a key means in a place, if any. */
export function actionFor(where: Place, key: string): ActionId | undefined {
  return actionsAt(where).find((id) => (ACTIONS[id].keys as readonly string[]).includes(key));
}

const PRINTED: Record<string, string> = {
  arrowup: "↑",
  arrowdown: "↓",
  arrowleft: "←",
  arrowright: "→",
  backspace: "back",
  escape: "esc",
};

/** A key as it is printed: "ctrl z", "shift ←", "space". */
export function printed(key: string): string {
  return key
    .split("+")
    .map((one) => PRINTED[one] ?? one)
    .join(" ");
}
