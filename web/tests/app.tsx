/** The whole application at an address, as a user meets it. */
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { createMemoryHistory, createRouter, RouterProvider } from "@tanstack/react-router";
import { configure, render } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { router } from "../src/places";

// No stylesheet is loaded here, so nothing is hidden by one: to look for it takes most of the time of a test.
// What is waited for comes within a second on an idle machine, and not on a shared one that is busy.
configure({ defaultHidden: true, asyncUtilTimeout: 8_000 });

/** A hand without pauses. */
export const user = userEvent.setup({ delay: null, pointerEventsCheck: 0 });

/** Open the application at an address; give where it stands. */
export function openAt(address: string) {
  const cache = new QueryClient({ defaultOptions: { queries: { retry: false, networkMode: "always" } } });
  const own = createRouter({
    ...router.options,
    routeTree: router.routeTree,
    history: createMemoryHistory({ initialEntries: [address] }),
  });
  const opened = render(
    <QueryClientProvider client={cache}>
      <RouterProvider router={own as never} />
    </QueryClientProvider>,
  );
  return { ...opened, cache, where: () => own.state.location.pathname };
}
