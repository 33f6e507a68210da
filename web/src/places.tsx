/** The places of the application and their addresses. */
import { createRootRoute, createRoute, createRouter, redirect } from "@tanstack/react-router";
import { BeginPage } from "./begin/BeginPage";
import { DropZone } from "./begin/DropZone";
import { StartPage } from "./begin/StartPage";
import { BenchPage } from "./bench/BenchPage";
import { RulesPage } from "./bench/RulesPage";
import { LogPage } from "./log/LogPage";
import { LogRunPage } from "./log/LogRunPage";
import { PiecePage } from "./piece/PiecePage";
import { RunPage } from "./run/RunPage";
import { NotFound, Shell } from "./shell/Shell";
import { CalculatorPage } from "./sizes/CalculatorPage";
import { MakingPage } from "./sizes/MakingPage";
import { SizesPage } from "./sizes/SizesPage";
import { WorkPage } from "./work/WorkPage";

function Everywhere() {
  return (
    <>
      <Shell />
      <DropZone />
    </>
  );
}

const root = createRootRoute({ component: Everywhere, notFoundComponent: NotFound });
const home = createRoute({
  getParentRoute: () => root,
  path: "/",
  beforeLoad: () => {
    throw redirect({ to: "/work" });
  },
});
const work = createRoute({ getParentRoute: () => root, path: "/work", component: WorkPage });
const begin = createRoute({ getParentRoute: () => root, path: "/begin", component: BeginPage });
const start = createRoute({
  getParentRoute: () => root,
  path: "/begin/$start",
  component: StartPage,
  // What a calculator found can be begun from: its measures stand in the address.
  validateSearch: (search: Record<string, unknown>): Record<string, string | boolean> =>
    Object.fromEntries(
      Object.entries(search).map(([key, value]) => [key, typeof value === "boolean" ? value : String(value)]),
    ),
});
/** What of a piece is chosen when it is opened from elsewhere: a part, a join or other work by its id. */
type Chosen = { part?: string; join?: string; work?: string };
const piece = createRoute({
  getParentRoute: () => root,
  path: "/work/$piece",
  component: PiecePage,
  validateSearch: (search: Record<string, unknown>): Chosen =>
    Object.fromEntries(
      Object.entries(search).filter(
        ([key, id]) => ["part", "join", "work"].includes(key) && typeof id === "string",
      ),
    ),
});
const run = createRoute({ getParentRoute: () => root, path: "/run/$run", component: RunPage });
const sizes = createRoute({ getParentRoute: () => root, path: "/sizes", component: SizesPage });
const size = createRoute({ getParentRoute: () => sizes, path: "$name", component: CalculatorPage });
const mill = createRoute({ getParentRoute: () => root, path: "/mill/$making", component: MakingPage });
const rules = createRoute({ getParentRoute: () => root, path: "/rules", component: RulesPage });
const bench = createRoute({ getParentRoute: () => root, path: "/bench", component: BenchPage });
const log = createRoute({ getParentRoute: () => root, path: "/log", component: LogPage });
const logRun = createRoute({ getParentRoute: () => root, path: "/log/$run", component: LogRunPage });

export const router = createRouter({
  routeTree: root.addChildren([
    home,
    work,
    begin,
    start,
    piece,
    run,
    sizes.addChildren([size]),
    mill,
    bench,
    rules,
    log,
    logRun,
  ]),
  defaultPreload: "intent",
});

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}
