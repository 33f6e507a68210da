/** The tools owned as a line for each kind: typed as a list of sizes, read back into tools. */
import type { Tool } from "../api/types";
import { optionsOf } from "../parts/Select";

export type ToolKind = Tool["kind"];
export const TOOL_WORDS = optionsOf<ToolKind>({
  dowel: "Dowels",
  mandrel: "Mandrels",
  drill: "Drills",
  "draw-plate-hole": "Draw-plate holes",
  "mill-groove": "Mill grooves",
  "dapping-pair": "Dapping hollows",
  "disc-hole": "Disc holes",
  blade: "Saw blades",
});

/** Write the sizes owned of a kind, the smallest first. */
export function sayTools(tools: readonly Tool[], kind: ToolKind): string {
  const own = tools.filter((tool) => tool.kind === kind);
  if (kind === "blade") return own.map((tool) => tool.size ?? "").join(", ");
  return own
    .map((tool) => tool.size_mm ?? 0)
    .sort((a, b) => a - b)
    .join(", ");
}

/** Take a typed line apart into its sizes as they stand. */
export const splitSizes = (line: string): string[] =>
  line
    .split(/[,;\n]+/)
    .map((one) => one.trim())
    .filter(Boolean);

/** Put the sizes of one kind in place of those before; a groove keeps its mm a turn. */
export function withSizes(
  tools: readonly Tool[],
  kind: ToolKind,
  sizes: readonly (number | string)[],
): Tool[] {
  const before = tools.filter((tool) => tool.kind === kind);
  const turn = before.find((tool) => tool.mm_per_turn != null)?.mm_per_turn;
  const made = sizes.map((size): Tool => {
    if (typeof size === "string") return { kind, size };
    return turn != null ? { kind, size_mm: size, mm_per_turn: turn } : { kind, size_mm: size };
  });
  return [...tools.filter((tool) => tool.kind !== kind), ...made];
}

/** Set the mm that the mill closes by in one turn, for all its grooves. */
export const withTurn = (tools: readonly Tool[], mm: number): Tool[] =>
  tools.map((tool) => (tool.kind === "mill-groove" ? { ...tool, mm_per_turn: mm } : tool));
