/**
 * The page and its files are kept, so that Eskel opens and a run goes on with no server: what is asked comes from the
 * server where it answers, from what is kept where it does not. What is pressed is kept elsewhere (`happened/`).
 */
import { clientsClaim } from "workbox-core";
import { cleanupOutdatedCaches, type PrecacheEntry, precacheAndRoute } from "workbox-precaching";
import { registerRoute } from "workbox-routing";
import { NetworkFirst } from "workbox-strategies";

declare const self: {
  __WB_MANIFEST: PrecacheEntry[];
  skipWaiting: () => Promise<void>;
  addEventListener: (
    what: "install",
    listen: (event: { waitUntil: (until: Promise<unknown>) => void }) => void,
  ) => void;
};

/** The one page has every place of the application; it carries the nonce of the policy that it came with. */
const PAGE = "/";
const PATIENCE_S = 4;
/** What never changes by what is pressed, and every screen needs to speak in the units of the house. */
const KNOWN = new Set(["/api/bench", "/api/tables"]);

cleanupOutdatedCaches();
precacheAndRoute(self.__WB_MANIFEST);
clientsClaim();

const page = new NetworkFirst({
  cacheName: "page",
  networkTimeoutSeconds: PATIENCE_S,
  plugins: [{ cacheKeyWillBeUsed: () => Promise.resolve(PAGE) }],
});
registerRoute(({ request }) => request.mode === "navigate", page);
registerRoute(
  ({ url, sameOrigin }) => sameOrigin && KNOWN.has(url.pathname),
  new NetworkFirst({ cacheName: "known", networkTimeoutSeconds: PATIENCE_S }),
);

self.addEventListener("install", (event) => {
  // The visit that brings this here is not seen by it: the page is fetched once more, to be kept.
  const [, kept] = page.handleAll({ event: event as never, request: new Request(PAGE) });
  event.waitUntil(Promise.all([kept, self.skipWaiting()]));
});
