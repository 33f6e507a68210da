/** Keys: one table of key to action, silent while someone types. */
import { useEffect, useRef } from "react";

export type KeyTable = Record<string, (() => void) | undefined>;

/** The name of a pressed key: "space", "ctrl+z", "ctrl+shift+z", "2", "b", "arrowleft". */
export function nameOfKey(event: {
  key: string;
  ctrlKey: boolean;
  metaKey: boolean;
  shiftKey: boolean;
}): string {
  const key = event.key === " " ? "space" : event.key.toLowerCase();
  const held = event.ctrlKey || event.metaKey ? (event.shiftKey ? "ctrl+shift+" : "ctrl+") : "";
  return held + key;
}

/** Inputs into which nothing is typed, and the keys that they go by. */
const CHOSEN = new Set(["radio", "checkbox", "range"]);
const CHOOSING = new Set(["space", "arrowleft", "arrowright", "arrowup", "arrowdown", "home", "end"]);

/** Whether a key belongs to what has the focus: someone types there, or it is a button's own key. */
function isTaken(target: EventTarget | null, key: string, spaceIsOurs: boolean): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.closest("[role=dialog]")) return true;
  if (target instanceof HTMLInputElement && CHOSEN.has(target.type)) return CHOOSING.has(key);
  if (target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName)) return true;
  if (key === "enter") return target.closest("button, a, summary") !== null;
  return key === "space" && !spaceIsOurs && target.closest("button, summary") !== null;
}

/**
 * Listen for keys while mounted. At the torch the space bar always means the same (`spaceIsOurs`), whatever
 * button was touched last; Enter still presses a focused button.
 */
export function useKeys(table: KeyTable, spaceIsOurs = false): void {
  const current = useRef(table);
  current.current = table;
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const name = nameOfKey(event);
      const action = current.current[name];
      if (!action || event.altKey || event.repeat || isTaken(event.target, name, spaceIsOurs)) return;
      event.preventDefault();
      action();
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [spaceIsOurs]);
}
