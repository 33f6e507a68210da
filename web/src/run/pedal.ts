/** A pedal is a key that the smith has taught: whatever it sends goes on to the next, as the space bar does. */
import { ACTIONS, type ActionId, actionsAt, printed } from "../shell/actions";

const ALONE = new Set(["shift", "control", "alt", "meta", "capslock", "dead", "unidentified", "process"]);
/** Keys that the browser or a field needs: a pedal that sends one would do two things. */
const NEEDED: Readonly<Record<string, string>> = {
  tab: "goes from one thing to the next",
  enter: "presses the button at hand",
};

/** Why a key cannot be the pedal's; null where it can. */
export function whyNoPedal(key: string): string | null {
  if (ALONE.has(key)) return "That key does nothing by itself.";
  const needed = NEEDED[key];
  if (needed) return `${printed(key)} ${needed}; let the pedal send another key.`;
  const places: readonly ActionId[] = [...actionsAt("at the torch"), ...actionsAt("anywhere")];
  const own = places.find((id) => (ACTIONS[id].keys as readonly string[]).includes(key));
  if (own === "run.next") return "The space bar goes on already: the pedal works as it is.";
  if (own)
    return `${printed(key)} already means “${ACTIONS[own].label}” here; let the pedal send another key.`;
  if (/^\d$/.test(key)) return `${key} says how a join came out; let the pedal send another key.`;
  return null;
}
