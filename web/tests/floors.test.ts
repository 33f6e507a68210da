/// <reference types="vite/client" />
import { describe, expect, it } from "vitest";

/** The floors of the house, lowest first: a folder imports from its own and from those below, never from above. */
const FLOORS = [
  ["api"],
  ["parts"],
  ["shell", "document"],
  ["drawing"],
  ["ladder", "rehearsal", "sizes"],
  ["run", "bench"],
  ["piece", "log", "work"],
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
