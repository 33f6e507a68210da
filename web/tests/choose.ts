/** Lists and menus as a keyboard uses them. */
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { expect } from "vitest";

const openList = (field: HTMLElement) => {
  field.focus();
  fireEvent.keyDown(field, { key: field.getAttribute("role") === "combobox" ? "Enter" : "ArrowDown" });
};
// In a form the list is there as plain options too, for the form alone: those are not what is seen.
const offered = () =>
  [...screen.queryAllByRole("option"), ...screen.queryAllByRole("menuitem")].filter(
    (one) => one.dataset.value !== undefined,
  );

/** Choose one of a list or menu, by its value or its words. */
export async function choose(field: HTMLElement, wanted: string): Promise<void> {
  openList(field);
  const found =
    offered().find((one) => one.dataset.value === wanted) ??
    offered().find((one) => one.textContent === wanted);
  if (!found)
    throw new Error(
      `no ${wanted} among ${offered()
        .map((one) => one.textContent)
        .join(", ")}`,
    );
  found.focus();
  fireEvent.keyDown(found, { key: "Enter" });
  await waitFor(() => expect(offered()).toEqual([]));
}

/** What a list offers, by value and in words. */
export function offeredBy(field: HTMLElement): { value: string; words: string }[] {
  openList(field);
  const all = offered().map((one) => ({ value: one.dataset.value ?? "", words: one.textContent ?? "" }));
  fireEvent.keyDown(offered()[0] ?? field, { key: "Escape" });
  return all;
}

export const chosenIn = (field: HTMLElement): string => field.dataset.value ?? "";
