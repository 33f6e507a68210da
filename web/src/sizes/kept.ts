/** What was last typed into each calculator, kept on this machine so that it is there again. */
import type { TypedGroup } from "./typed";

const place = (name: string) => `eskel.sizes.${name}`;

export function readKept(name: string): TypedGroup | null {
  try {
    const text = localStorage.getItem(place(name));
    return text === null ? null : (JSON.parse(text) as TypedGroup);
  } catch {
    return null;
  }
}

export function keepTyped(name: string, typed: TypedGroup): void {
  try {
    localStorage.setItem(place(name), JSON.stringify(typed));
  } catch {
    // A full or closed store only means that it is not there again next time.
  }
}
