import { expect, it, vi } from "vitest";
import { createFramePages } from "./frame-pages.ts";

it("makes a page when a frame asks for it, and once", () => {
  const pages = createFramePages();
  const make = vi.fn(() => "<p>An email</p>");
  const { name } = pages.expect(make);
  expect(make).not.toHaveBeenCalled();
  expect([pages.get(name), pages.get(name)]).toEqual(["<p>An email</p>", "<p>An email</p>"]);
  expect(make).toHaveBeenCalledTimes(1);
});

it("makes it before it is asked for, and says when it was or will not be", async () => {
  const pages = createFramePages();
  const make = vi.fn(() => "");
  const page = pages.expect(make);
  const asked = page.ready();
  expect(make).toHaveBeenCalledTimes(1);
  const heard = vi.fn();
  void asked.then(heard);
  await new Promise((ok) => setTimeout(ok, 20));
  expect(heard).not.toHaveBeenCalled();
  pages.get(page.name);
  await asked;
  expect(make).toHaveBeenCalledTimes(1);
  vi.useFakeTimers();
  try {
    const other = pages.expect(make).ready();
    vi.advanceTimersByTime(1_000);
    await other;
  } finally {
    vi.useRealTimers();
  }
});

it("keeps the latest twenty, under names that nobody guesses", () => {
  const pages = createFramePages();
  const names = Array.from({ length: 21 }, (_, i) => pages.expect(() => String(i)).name);
  expect(new Set(names).size).toBe(21);
  for (const name of names) expect(name).toMatch(/^[A-Za-z0-9]{12}$/);
  expect(pages.get(names[0]!)).toBeNull();
  expect(names.slice(1).map((name) => pages.get(name))).toEqual(
    Array.from({ length: 20 }, (_, i) => String(i + 1)),
  );
  expect(pages.get("nothing")).toBeNull();
});
