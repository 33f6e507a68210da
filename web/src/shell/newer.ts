/** Whether the server has a newer build of the page than this tab was opened with, and how it is taken. */
import { useRouter } from "@tanstack/react-router";
import { useEffect } from "react";
import { useRail } from "../api/queries";

/** The build that this tab was opened with; null where the page was not served by Eskel itself. */
function ownPage(): string | null {
  const told = document.querySelector<HTMLMetaElement>('meta[name="page"]')?.content;
  return told && !told.startsWith("__") ? told : null;
}

export type Newer = { there: boolean; heatOn: boolean };

export function useNewer(): Newer {
  const rail = useRail().data;
  const own = ownPage();
  return {
    there: own !== null && Boolean(rail?.page) && rail?.page !== own,
    // Any heat counts, and not only that of this tab: nothing is loaded anew under a flame.
    heatOn: (rail?.entries ?? []).some((entry) => entry.kind === "heat"),
  };
}

/** Take the newer page with the next change of place, where no heat is on. */
export function useTakeNewer({ there, heatOn }: Newer): void {
  const router = useRouter();
  useEffect(() => {
    if (!there || heatOn) return;
    return router.subscribe("onBeforeNavigate", ({ toLocation, pathChanged }) => {
      if (pathChanged) location.assign(toLocation.href);
    });
  }, [router, there, heatOn]);
}
