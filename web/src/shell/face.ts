/** Day and Dim: Dim comes on by itself at the torch; either can be pinned. */
import { useSyncExternalStore } from "react";

export type Pin = "auto" | "day" | "dim";
const KEY = "eskel-face";
const listeners = new Set<() => void>();
let atTorch = false;

export const pinned = (): Pin => (localStorage.getItem(KEY) as Pin | null) ?? "auto";

/** Which face shows. */
export function faceOf(pin: Pin, torch: boolean): "day" | "dim" {
  return pin === "auto" ? (torch ? "dim" : "day") : pin;
}

function show(): void {
  document.documentElement.dataset.face = faceOf(pinned(), atTorch);
  for (const listener of listeners) listener();
}

export function setAtTorch(torch: boolean): void {
  atTorch = torch;
  show();
}

export function pinFace(pin: Pin): void {
  localStorage.setItem(KEY, pin);
  show();
}

export const usePin = (): Pin =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, pinned);
