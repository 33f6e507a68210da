/// <reference types="vite/client" />
import { describe, expect, it } from "vitest";

/** The floors of the house, lowest first: a folder imports from its own and from those below, never from above. */
const FLOORS = [
  ["api"],
  ["happened"],
  ["parts"],
  ["shell", "document"],
  ["drawing"],
  ["ladder", "rehearsal", "sizes"],
  ["run", "bench"],
  ["piece", "log", "work", "begin"],
];
const FILES = import.meta.glob<string>("../src/*/*.{ts,tsx}", {
  query: "?raw",
  import: "default",
  eager: true,
});
const floorOf = (folder: string) => FLOORS.findIndex((floor) => floor.includes(folder));
const folderOf = (path: string) => path.split("/")[2] ?? "";

describe("floors", () => {
  const folders = [...new Set(Object.keys(FILES).map(folderOf))].sort();
  it("name every folder", () => expect(folders).toEqual(FLOORS.flat().sort()));
  it.each(folders)("%s imports nothing from above or beside", (folder) => {
    const own = Object.entries(FILES).filter(([path]) => folderOf(path) === folder);
    const wrong = own.flatMap(([path, text]) =>
      [...text.matchAll(/from "\.\.\/(\w+)\//g)]
        .map((found) => found[1] ?? "")
        .filter((other) => other !== folder && floorOf(other) >= floorOf(folder))
        .map((other) => `${path}: ${other}`),
    );
    expect(wrong).toEqual([]);
  });
});

it("numbers that may be many are no arguments of one call, which ends at some ten thousand", () => {
  const wrong = Object.entries(FILES).filter(([, text]) => /Math\.(min|max)\(\s*\.\.\./.test(text));
  expect(wrong.map(([path]) => path)).toEqual([]);
});

/** Each function that begins at the left edge, with its lines: the components are all written so. */
function functionsOf(text: string): { name: string; lines: number }[] {
  const rows = text.split("\n");
  return rows.flatMap((row, at) => {
    const name = /^(?:export )?(?:async )?function (\w+)/.exec(row)?.[1];
    return name ? [{ name, lines: rows.indexOf("}", at) - at + 1 }] : [];
  });
}

describe("a component", () => {
  const all = Object.entries(FILES).flatMap(([path, text]) =>
    functionsOf(text).map((found) => ({ ...found, path })),
  );

  it("has no more than 80 lines", () => {
    expect(all.length).toBeGreaterThan(150);
    expect(all.filter(({ lines }) => lines > 80)).toEqual([]);
  });

  it("is measured to its own closing brace", () => {
    const two = "export function A() {\n  if (1) {\n  }\n}\nfunction B() {\n}";
    expect(functionsOf(two)).toEqual([
      { name: "A", lines: 4 },
      { name: "B", lines: 2 },
    ]);
  });
});
