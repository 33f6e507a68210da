/** What was typed into a calculator, as plain data: how it begins, how it is changed, how it is sent. */
import type { KeyInfo } from "../api/types";
import { bareLength, bareMass, bareTemperature, type Units } from "../parts/units";

export type Typed = string | boolean | Typed[] | { [key: string]: Typed };
export type TypedGroup = { [key: string]: Typed };
export type Step = string | number;

const isGroup = (value: unknown): value is TypedGroup =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/**
 * Begin with what a key's example or default says; nothing where neither does. Those are numbers in mm, g and °C: they
 * stand in the units of the house, as a hand would type them there. What was typed already stays as it was typed.
 */
export function beginKeys(keys: KeyInfo[], given: Record<string, unknown>, units: Units): TypedGroup {
  const begun: TypedGroup = {};
  for (const info of keys) begun[info.key] = beginKey(info, given[info.key] ?? info.default, units);
  return begun;
}

function beginKey(info: KeyInfo, value: unknown, units: Units): Typed {
  switch (info.kind) {
    case "yes-no":
      return value === true;
    case "group":
      return beginKeys(info.keys, isGroup(value) ? value : {}, units);
    case "variants": {
      const kind = isGroup(value) ? String(value.kind) : "";
      const variant = info.variants.find((one) => one.kind === kind);
      return variant ? { kind, ...beginKeys(variant.keys, value as TypedGroup, units) } : { kind: "" };
    }
    case "list":
      return (Array.isArray(value) ? value : []).map((row) => beginKeys(info.keys, row as TypedGroup, units));
    default:
      return sayPlain(value, info.quantity, units);
  }
}

const BARE: Record<string, (value: number, units: Units) => string> = {
  length: bareLength,
  lengths: bareLength,
  mass: bareMass,
  temperature: bareTemperature,
};

function sayPlain(value: unknown, quantity: string, units: Units): string {
  const say = (one: unknown) =>
    typeof one === "number" ? (BARE[quantity]?.(one, units) ?? String(one)) : String(one);
  if (value === null || value === undefined) return "";
  if (!Array.isArray(value)) return say(value);
  return quantity === "points"
    ? value.map((spot) => (spot as unknown[]).join(" ")).join(", ")
    : value.map(say).join(", ");
}

/** Send only what was given: an empty field is left out, a list in one line is taken apart. */
export function sendKeys(keys: KeyInfo[], typed: TypedGroup): Record<string, unknown> {
  const sent: Record<string, unknown> = {};
  for (const info of keys) {
    const value = sendKey(info, typed[info.key]);
    if (value !== undefined) sent[info.key] = value;
  }
  return sent;
}

function sendKey(info: KeyInfo, value: Typed | undefined): unknown {
  switch (info.kind) {
    case "yes-no":
      return value === true;
    case "group":
      return isGroup(value) ? sendKeys(info.keys, value) : undefined;
    case "variants": {
      const kind = isGroup(value) ? String(value.kind ?? "") : "";
      const variant = info.variants.find((one) => one.kind === kind);
      return variant && isGroup(value) ? { kind, ...sendKeys(variant.keys, value) } : undefined;
    }
    // A piece is chosen by its id; the page puts its document in.
    case "document":
      return undefined;
    case "list": {
      const rows = (Array.isArray(value) ? value : []).filter(isGroup);
      return rows.length ? rows.map((row) => sendKeys(info.keys, row)) : undefined;
    }
    default:
      return sendText(info.quantity, String(value ?? "").trim());
  }
}

function sendText(quantity: string, text: string): unknown {
  if (text === "") return undefined;
  if (quantity === "lengths") return text.split(/[,;]\s*/).filter(Boolean);
  if (quantity === "points") return text.split(",").map((pair) => pair.trim().split(/\s+/).map(Number));
  return text;
}

/** Give what was typed with one value changed. */
export function changeAt(typed: TypedGroup, path: Step[], value: Typed): TypedGroup {
  return put(typed, path, value) as TypedGroup;
}

function put(here: Typed, path: Step[], value: Typed): Typed {
  const [step, ...rest] = path;
  if (step === undefined) return value;
  if (Array.isArray(here)) return here.map((one, n) => (n === step ? put(one, rest, value) : one));
  const group = isGroup(here) ? here : {};
  return { ...group, [step]: put(group[step] ?? {}, rest, value) };
}

/** Write a path as the server does: `prongs[0].ball_mm`. */
export const sayPath = (path: Step[]): string =>
  path.map((step, n) => (typeof step === "number" ? `[${String(step)}]` : n ? `.${step}` : step)).join("");

/** Keep only calculators that hold every word asked for. */
export function findIn<T extends { title: string; about: string; group: string; name: string }>(
  list: T[],
  words: string,
): T[] {
  const asked = words.toLowerCase().split(/\s+/).filter(Boolean);
  return list.filter((one) => {
    const text = `${one.title} ${one.about} ${one.group} ${one.name}`.toLowerCase();
    return asked.every((word) => text.includes(word));
  });
}
