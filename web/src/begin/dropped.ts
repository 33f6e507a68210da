/** Files that are dropped on the window: what each is, and what it would change. */
import type { BenchView } from "../api/types";

export type Plain = Record<string, unknown>;
export type Dropped =
  | { kind: "piece"; name: string; document: Plain }
  | { kind: "bench"; name: string; house: Plain; bench: Plain }
  | { kind: "outline"; name: string; text: string }
  | { kind: "unknown"; name: string; why: string };

/** Tell what a file is by its ending and by what it says of itself. */
export function whatIs(name: string, text: string): Dropped {
  if (/\.(svg|dxf)$/i.test(name)) return { kind: "outline", name, text };
  let plain: unknown;
  try {
    plain = JSON.parse(text);
  } catch {
    return { kind: "unknown", name, why: "It is neither JSON nor a drawing (SVG or DXF)." };
  }
  if (!plain || typeof plain !== "object" || Array.isArray(plain))
    return { kind: "unknown", name, why: "It is not one JSON object." };
  const document = plain as Plain;
  const format = String(document.format ?? "");
  if (format.startsWith("eskel-bench/") || (!format && ("bench" in document || "house" in document)))
    return { kind: "bench", name, house: asPlain(document.house), bench: asPlain(document.bench) };
  return { kind: "piece", name, document };
}

const asPlain = (value: unknown): Plain => (value && typeof value === "object" ? (value as Plain) : {});

export type Difference = { key: string; was: string; becomes: string };

/** What a bench file would change: every key that it tells and that is otherwise now. */
export function differences(now: BenchView, house: Plain, bench: Plain): Difference[] {
  return [
    ...between("house rule", now.own_house as unknown as Plain, house),
    ...between("bench", now.own_bench as unknown as Plain, bench),
  ];
}

function between(what: string, now: Plain, then: Plain): Difference[] {
  return Object.entries(then)
    .filter(([key, value]) => value !== null && JSON.stringify(value) !== JSON.stringify(now[key] ?? null))
    .map(([key, value]) => ({
      key: `${what}: ${key.replace(/_/g, " ")}`,
      was: said(now[key]),
      becomes: said(value),
    }));
}

function said(value: unknown): string {
  if (value === null || value === undefined) return "as shipped";
  if (Array.isArray(value)) return `${String(value.length)} in all`;
  return typeof value === "object" ? JSON.stringify(value) : String(value).replace(/-/g, " ");
}
