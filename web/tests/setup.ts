/** Before any module of the application is loaded: requests are answered by the test's own server. */
import { answer } from "./wire";

const Plain = globalThis.Request;

class FromHere extends Plain {
  constructor(input: RequestInfo | URL, how?: RequestInit) {
    super(typeof input === "string" ? new URL(input, "http://eskel.test") : input, how);
  }
}

globalThis.Request = FromHere;
globalThis.fetch = (asked, how) => answer(new FromHere(asked, how));

// What a page has and the tests' document has not.
if (typeof window !== "undefined") {
  const nothing = () => {};
  class Observer {
    observe = nothing;
    unobserve = nothing;
    disconnect = nothing;
  }
  Object.assign(window, {
    ResizeObserver: Observer,
    IntersectionObserver: Observer,
    matchMedia: () => ({ matches: false, addEventListener: nothing, removeEventListener: nothing }),
    scrollTo: nothing,
  });
  Object.assign(Element.prototype, {
    scrollIntoView: nothing,
    setPointerCapture: nothing,
    releasePointerCapture: nothing,
    hasPointerCapture: () => false,
  });
}
