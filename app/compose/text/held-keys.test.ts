import { expect, it, vi } from "vitest";
import { holdKeys } from "./held-keys.ts";

/** Presses a key in a page; gives whether it was held. */
function press(page: EventTarget, key: string, more: Partial<KeyboardEvent> = {}): boolean {
  const event = Object.assign(new Event("keydown", { cancelable: true }), { key, ...more });
  return !page.dispatchEvent(event);
}
const page = () => new EventTarget();

it("keeps letters of all pages in the order they were typed", () => {
  const [own, sheet] = [page(), page()];
  const held = holdKeys([own, sheet]);
  for (const letter of "hé") press(sheet, letter);
  press(own, "🌿");
  press(sheet, " ");
  expect(held.release()).toBe("hé🌿 ");
});

it("takes the last letter back with Backspace, and nothing where there is none", () => {
  const sheet = page();
  const held = holdKeys([sheet]);
  for (const key of ["Backspace", "a", "b", "Backspace", "c"]) press(sheet, key);
  expect(held.release()).toBe("ac");
});

it("keeps the keys of a text from the composer, and leaves it its own", () => {
  const sheet = page();
  const composer = vi.fn();
  const held = holdKeys([sheet]);
  sheet.addEventListener("keydown", composer);
  for (const key of ["Delete", "Backspace", "Enter", "ArrowUp", "d"])
    expect(press(sheet, key)).toBe(true);
  expect(composer).not.toHaveBeenCalled();
  for (const [key, how] of [["Escape"], ["Tab"], ["F6"], ["z", { ctrlKey: true }]] as const)
    expect(press(sheet, key, how)).toBe(false);
  expect(composer).toHaveBeenCalledTimes(4);
  expect(held.release()).toBe("d");
});

it("hears nothing once it is released", () => {
  const sheet = page();
  const held = holdKeys([sheet]);
  held.release();
  expect(press(sheet, "a")).toBe(false);
  expect(held.release()).toBe("");
});
