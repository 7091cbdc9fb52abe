import { expect, it } from "vitest";
import { isPublic } from "./public.ts";
import { safePath } from "./session.ts";

it("goes on only to paths of the application", () => {
  expect(safePath("/campaigns?state=draft")).toBe("/campaigns?state=draft");
  for (const bad of ["https://example.org", "//example.org", "/\\example.org", "", null]) {
    expect(safePath(bad)).toBe("/");
  }
});

it("opens only what is listed", () => {
  for (const path of [
    "/sign-in",
    "/sign-in.data",
    "/sign-in/abc",
    "/o/t.gif",
    "/c/t/1",
    "/u/t",
    "/w/t",
  ]) {
    expect(isPublic(path)).toBe(true);
  }
  for (const path of [
    "/",
    "/campaigns",
    "/_root.data",
    "/sign-out",
    "/o",
    "/c/t",
    "/u/t/x",
    "/sign-inx",
    "/outbox/1/html",
  ]) {
    expect(isPublic(path)).toBe(false);
  }
});
