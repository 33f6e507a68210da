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

function isTyping(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.closest("[role=dialog]")) return true;
  if (target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName)) return true;
  // Space and Enter belong to a focused button or link.
  return ["space", "enter"].includes(key) && target.closest("button, a, summary") !== null;
}

/** Listen for keys while mounted. */
export function useKeys(table: KeyTable): void {
  const current = useRef(table);
  current.current = table;
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const name = nameOfKey(event);
      const action = current.current[name];
      if (!action || event.altKey || event.repeat || isTyping(event.target, name)) return;
      event.preventDefault();
      action();
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}
