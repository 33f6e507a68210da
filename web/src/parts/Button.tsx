import type { ComponentProps } from "react";

export type ButtonProps = ComponentProps<"button"> & { look?: "plain" | "main" | "bare" };

const LOOKS = {
  plain: "border border-hair bg-raised text-ink hover:border-quiet",
  main: "border border-lit bg-lit text-on-lit hover:opacity-90",
  bare: "border border-transparent text-quiet hover:text-ink hover:bg-sunk",
};

/** A button of the house. */
export function Button({ look = "plain", className = "", type = "button", ...rest }: ButtonProps) {
  return (
    <button
      type={type}
      className={`inline-flex min-h-10 items-center justify-center gap-2 rounded-md px-4 text-[15px] font-medium whitespace-nowrap disabled:opacity-40 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
