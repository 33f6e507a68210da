/** What this device keeps of how one stands at the torch: the pedal's key, and whether something is heard. */
import { useSyncExternalStore } from "react";

export type Cue = "off" | "chime" | "spoken";
export type AtTorch = { pedal: string | null; cue: Cue };

const KEY = "eskel-at-torch";
const CUES: readonly string[] = ["off", "chime", "spoken"] satisfies Cue[];
const listeners = new Set<() => void>();
let read = "";
let known: AtTorch = { pedal: null, cue: "off" };

/** What was kept; what cannot be read counts as nothing. */
export function atTorch(): AtTorch {
  const text = localStorage.getItem(KEY) ?? "";
  if (text === read) return known;
  let kept: Partial<Record<keyof AtTorch, unknown>> = {};
  try {
    kept = (JSON.parse(text || "{}") ?? {}) as typeof kept;
  } catch {
    // As good as nothing kept.
  }
  read = text;
  known = {
    pedal: typeof kept.pedal === "string" ? kept.pedal : null,
    cue: CUES.includes(String(kept.cue)) ? (kept.cue as Cue) : "off",
  };
  return known;
}

export function keepAtTorch(change: Partial<AtTorch>): void {
  localStorage.setItem(KEY, JSON.stringify({ ...atTorch(), ...change }));
  for (const listener of listeners) listener();
}

export const useAtTorch = (): AtTorch =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, atTorch);
