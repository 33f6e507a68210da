/** Keys: what each action does here, by the table of actions; silent while someone types. */
import { useEffect, useRef } from "react";
import { ACTIONS, type ActionId } from "./actions";

export type Handlers = Partial<Record<ActionId, (() => void) | undefined>>;

export type KeysOptions = {
  /** The space bar always means the same here, whatever button was touched last; Enter still presses one. */
  spaceIsOurs?: boolean;
  /** Keys that the work itself offers, beside those of the table: outcomes of a join, ways out of a conflict. */
  offered?: Record<string, (() => void) | undefined>;
};

export type KeyPress = { key: string; ctrlKey: boolean; metaKey: boolean; shiftKey: boolean };

/** The name of a pressed key: "space", "ctrl+z", "ctrl+shift+z", "2", "b", "shift+arrowleft". */
export function nameOfKey(event: KeyPress): string {
  const key = event.key === " " ? "space" : event.key.toLowerCase();
  const ctrl = event.ctrlKey || event.metaKey;
  const shift = event.shiftKey && (ctrl || key.startsWith("arrow"));
  return `${ctrl ? "ctrl+" : ""}${shift ? "shift+" : ""}${key}`;
}

/** Inputs into which nothing is typed, and the keys that they go by. */
const CHOSEN = new Set(["radio", "checkbox", "range"]);
const CHOOSING = new Set(["space", "arrowleft", "arrowright", "arrowup", "arrowdown", "home", "end"]);

/** Whether a key belongs to what has the focus: someone types there, or it is a button's own key. */
function isTaken(target: EventTarget | null, key: string, spaceIsOurs: boolean): boolean {
  if (!(target instanceof HTMLElement)) return false;
  // What finds anything is at hand while something is typed, too.
  if (key === "ctrl+k") return target.closest("[role=dialog]") !== null;
  if (target.closest("[role=dialog], [role=listbox], [role=menu], [role=combobox]")) return true;
  if (target instanceof HTMLInputElement && CHOSEN.has(target.type)) return CHOOSING.has(key);
  if (target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName)) return true;
  if (key === "enter") return target.closest("button, a, summary") !== null;
  return key === "space" && !spaceIsOurs && target.closest("button, summary") !== null;
}

type Listener = { handlers: Handlers; offered: NonNullable<KeysOptions["offered"]> };
const LISTENING = new Set<{ current: Listener }>();

const held = (handlers: Handlers) => Object.entries(handlers) as [ActionId, (() => void) | undefined][];

/** The actions whose keys do something at this moment. */
export function actionsNow(): Set<ActionId> {
  const now = new Set<ActionId>();
  for (const { current } of LISTENING) for (const [id, act] of held(current.handlers)) if (act) now.add(id);
  return now;
}

/** Do what an action does at this moment, if anything. */
export function actNow(id: ActionId): void {
  for (const { current } of [...LISTENING].reverse()) {
    const act = current.handlers[id];
    if (act) {
      act();
      return;
    }
  }
}

function find(listener: Listener, key: string): (() => void) | undefined {
  for (const [id, act] of held(listener.handlers))
    if (act && (ACTIONS[id].keys as readonly string[]).includes(key)) return act;
  return listener.offered[key];
}

/** Do what a key means to the thing that has the focus; what it does not know goes on to the screen. */
export function heard(event: KeyPress & { preventDefault: () => void }, acts: Handlers): void {
  const act = find({ handlers: acts, offered: {} }, nameOfKey(event));
  if (!act) return;
  event.preventDefault();
  act();
}

/** Do what the keys of some actions mean, while mounted; a key that was heard nearer by is left alone. */
export function useKeys(handlers: Handlers, { spaceIsOurs = false, offered = {} }: KeysOptions = {}): void {
  const current = useRef<Listener>({ handlers, offered });
  current.current = { handlers, offered };
  useEffect(() => {
    LISTENING.add(current);
    const listen = (event: KeyboardEvent) => {
      const name = nameOfKey(event);
      const act = find(current.current, name);
      if (!act || event.defaultPrevented || event.altKey || event.repeat) return;
      if (isTaken(event.target, name, spaceIsOurs)) return;
      event.preventDefault();
      act();
    };
    window.addEventListener("keydown", listen);
    return () => {
      LISTENING.delete(current);
      window.removeEventListener("keydown", listen);
    };
  }, [spaceIsOurs]);
}
