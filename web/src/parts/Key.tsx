/** The name of a key, as it is printed on it. */
export function Key({ children }: { children: string }) {
  return (
    <kbd className="figures inline-flex min-w-6 items-center justify-center rounded border border-hair px-1.5 text-[13px] leading-5 text-quiet">
      {children}
    </kbd>
  );
}
