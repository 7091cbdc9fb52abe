import { expect, it, vi } from "vitest";
import { holdKeys } from "./held-keys.ts";

/** Presses a key in a page; gives whether it was held. */
function press(page: EventTarget, key: string, more: Partial<KeyboardEvent> = {}): boolean {
  const event = Object.assign(new Event("keydown", { cancelable: true }), { key, ...more });
  return !page.dispatchEvent(event);
}
function paste(page: EventTarget, words: string): boolean {
  const event = new Event("paste", { cancelable: true });
  return !page.dispatchEvent(Object.assign(event, { clipboardData: { getData: () => words } }));
}
const page = () => new EventTarget();
const ALL = ["a", { ctrlKey: true }] as const;

it("keeps letters of all pages in the order they were typed", () => {
  const [own, sheet] = [page(), page()];
  const held = holdKeys([own, sheet]);
  for (const letter of "hé") press(sheet, letter);
  press(own, "🌿");
  press(sheet, " ");
  expect(held.release()).toEqual({ words: "hé🌿 ", replaces: false, selects: false });
});

it("takes the last letter back with Backspace, and nothing where there is none", () => {
  const sheet = page();
  const held = holdKeys([sheet]);
  for (const key of ["Backspace", "a", "🌿", "Backspace", "Delete", "c"]) press(sheet, key);
  expect(held.release()).toEqual({ words: "ac", replaces: false, selects: false });
});

it("puts what is typed in the place of all that was selected", () => {
  const sheet = page();
  const typed = (...keys: (string | typeof ALL)[]) => {
    const held = holdKeys([sheet]);
    for (const key of keys)
      expect(typeof key === "string" ? press(sheet, key) : press(sheet, ...key)).toBe(true);
    return held.release();
  };
  expect(typed(ALL)).toEqual({ words: "", replaces: false, selects: true });
  expect(typed("x", ALL, "n", "o")).toEqual({ words: "no", replaces: true, selects: false });
  expect(typed(ALL, "Backspace")).toEqual({ words: "", replaces: true, selects: false });
  expect(typed(ALL, "a", "b", ALL, "Delete")).toEqual({
    words: "",
    replaces: true,
    selects: false,
  });
  expect(typed(ALL, "ArrowRight", "b")).toEqual({ words: "b", replaces: false, selects: false });
  expect(typed(ALL, "b", ALL)).toEqual({ words: "b", replaces: true, selects: true });
});

it("takes pasted words in one line, and leaves what has none to the composer", () => {
  const sheet = page();
  const held = holdKeys([sheet]);
  press(sheet, "a");
  expect(paste(sheet, " b\r\n\tc")).toBe(true);
  expect(paste(sheet, "")).toBe(false);
  press(sheet, ...ALL);
  paste(sheet, "d");
  expect(held.release()).toEqual({ words: "d", replaces: true, selects: false });
});

it("takes what stands on the third level of a key", () => {
  const sheet = page();
  const held = holdKeys([sheet]);
  const third = {
    ctrlKey: true,
    altKey: true,
    getModifierState: (name: string) => name === "AltGraph",
  };
  expect([press(sheet, "@", third), press(sheet, "a", third)]).toEqual([true, true]);
  expect(press(sheet, "x", { altKey: true, getModifierState: () => false })).toBe(false);
  expect(held.release()).toEqual({ words: "@a", replaces: false, selects: false });
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
  expect(held.release().words).toBe("d");
});

it("says that the text is left with Escape, or for another field", () => {
  const sheet = page();
  const left = vi.fn();
  holdKeys([sheet], left);
  expect(press(sheet, "Escape")).toBe(true);
  expect(left).toHaveBeenCalledTimes(1);
  const field = Object.assign(page(), { closest: () => field }) as EventTarget & {
    closest(): unknown;
  };
  sheet.dispatchEvent(Object.defineProperty(new Event("focusin"), "target", { value: field }));
  expect(left).toHaveBeenCalledTimes(2);
});

it("hears nothing once it is released", () => {
  const sheet = page();
  const held = holdKeys([sheet]);
  held.release();
  expect(press(sheet, "a")).toBe(false);
  expect(held.release().words).toBe("");
});
