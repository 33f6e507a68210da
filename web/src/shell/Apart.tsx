import { CatchBoundary } from "@tanstack/react-router";
import type { ReactNode } from "react";

/** Something beside the page: where it breaks it is not there until the place changes, and nothing else breaks with it. */
export function Apart({ children, place }: { children: ReactNode; place: string }) {
  return (
    <CatchBoundary getResetKey={() => place} errorComponent={() => null}>
      {children}
    </CatchBoundary>
  );
}
