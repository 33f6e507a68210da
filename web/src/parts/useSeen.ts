import { type RefObject, useEffect, useRef, useState } from "react";

/** How far outside the screen something is when it is made ready, so that it is there when it is scrolled to. */
const NEAR = "200px";

/** Whether an element was on the screen yet, or near it: what it shows is asked for then. */
export function useSeen<T extends Element>(): [RefObject<T | null>, boolean] {
  const element = useRef<T>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    if (seen || !element.current) return;
    const watch = new IntersectionObserver(
      (entries) => {
        if (entries.some((entry) => entry.isIntersecting)) setSeen(true);
      },
      { rootMargin: NEAR },
    );
    watch.observe(element.current);
    return () => watch.disconnect();
  }, [seen]);
  return [element, seen];
}
