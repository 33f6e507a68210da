/** The places of the application and their addresses. The code of a place is loaded when it is opened, or pointed at. */
import {
  createRootRoute,
  createRoute,
  createRouter,
  lazyRouteComponent,
  redirect,
} from "@tanstack/react-router";
import { DropZone } from "./begin/DropZone";
import { RunBroke } from "./run/RunBroke";
import { Apart } from "./shell/Apart";
import { Broke } from "./shell/Broke";
import { NotFound, Shell } from "./shell/Shell";

function Everywhere() {
  return (
    <>
      <Shell />
      <Apart place="">
        <DropZone />
      </Apart>
    </>
  );
}

const root = createRootRoute({ component: Everywhere, notFoundComponent: NotFound, errorComponent: Broke });
const home = createRoute({
  getParentRoute: () => root,
  path: "/",
  beforeLoad: () => {
    throw redirect({ to: "/work" });
  },
});
const work = createRoute({
  getParentRoute: () => root,
  path: "/work",
  component: lazyRouteComponent(() => import("./work/WorkPage"), "WorkPage"),
});
const begin = createRoute({
  getParentRoute: () => root,
  path: "/begin",
  component: lazyRouteComponent(() => import("./begin/BeginPage"), "BeginPage"),
});
const start = createRoute({
  getParentRoute: () => root,
  path: "/begin/$start",
  component: lazyRouteComponent(() => import("./begin/StartPage"), "StartPage"),
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
  component: lazyRouteComponent(() => import("./piece/PiecePage"), "PiecePage"),
  validateSearch: (search: Record<string, unknown>): Chosen =>
    Object.fromEntries(
      Object.entries(search).filter(
        ([key, id]) => ["part", "join", "work"].includes(key) && typeof id === "string",
      ),
    ),
});
const run = createRoute({
  getParentRoute: () => root,
  path: "/run/$run",
  component: lazyRouteComponent(() => import("./run/RunPage"), "RunPage"),
  errorComponent: RunBroke,
});
const sizes = createRoute({
  getParentRoute: () => root,
  path: "/sizes",
  component: lazyRouteComponent(() => import("./sizes/SizesPage"), "SizesPage"),
});
const size = createRoute({
  getParentRoute: () => sizes,
  path: "$name",
  component: lazyRouteComponent(() => import("./sizes/CalculatorPage"), "CalculatorPage"),
});
const mill = createRoute({
  getParentRoute: () => root,
  path: "/mill/$making",
  component: lazyRouteComponent(() => import("./sizes/MakingPage"), "MakingPage"),
});
const rules = createRoute({
  getParentRoute: () => root,
  path: "/rules",
  component: lazyRouteComponent(() => import("./bench/RulesPage"), "RulesPage"),
});
const bench = createRoute({
  getParentRoute: () => root,
  path: "/bench",
  component: lazyRouteComponent(() => import("./bench/BenchPage"), "BenchPage"),
});
const log = createRoute({
  getParentRoute: () => root,
  path: "/log",
  component: lazyRouteComponent(() => import("./log/LogPage"), "LogPage"),
});
const logRun = createRoute({
  getParentRoute: () => root,
  path: "/log/$run",
  component: lazyRouteComponent(() => import("./log/LogRunPage"), "LogRunPage"),
});

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
  // A page that breaks takes nothing else with it.
  defaultErrorComponent: Broke,
});

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}
