/** The name of a key, as it is printed on it. */
export function Key({ children, plain }: { children: string; plain?: boolean }) {
  return (
    <kbd
      className={`figures inline-flex min-w-6 shrink-0 items-center justify-center rounded border px-1.5 text-[13px] leading-5 ${plain ? "border-current" : "border-hair text-quiet"}`}
    >
      {children}
    </kbd>
  );
}
