import { text } from "node:stream/consumers";
import { type ReactNode, Suspense, use } from "react";
import { expect, it, vi } from "vitest";
import { drawPage } from "./draw-page.ts";

const drawn = (page: ReactNode, { whole = false, patience = 1_000 } = {}) => {
  const told = { ready: vi.fn(), failed: vi.fn() };
  return { ...told, page: drawPage(page, { nonce: "n", whole, patience, ...told }) };
};
function Late({ of }: { of: Promise<string> }) {
  return <b>{use(of)}</b>;
}
function Broken(): ReactNode {
  throw new Error("gone");
}
const late = (of: Promise<string>) => (
  <main>
    <h1>Desk</h1>
    <Suspense fallback="counting">
      <Late of={of} />
    </Suspense>
  </main>
);

it("stands before what comes late, which follows; or is whole where that is asked for", async () => {
  for (const whole of [false, true]) {
    let come = (_: string) => {};
    const { page, ready, failed } = drawn(late(new Promise((ok) => (come = ok))), { whole });
    await vi.waitFor(() => expect(ready).toHaveBeenCalledTimes(1));
    const stands = vi.fn();
    void page.then(stands);
    await new Promise((ok) => setTimeout(ok, 20));
    expect(stands).toHaveBeenCalledTimes(whole ? 0 : 1);
    come("12 readers");
    const html = await text(await page);
    expect(html).toContain("12 readers");
    expect(html.includes("counting")).toBe(!whole);
    expect(failed).not.toHaveBeenCalled();
  }
});

it("stands without a part that fails, whose error is told once, before it stands or after", async () => {
  const broken = (
    <Suspense fallback="counting">
      <Broken />
    </Suspense>
  );
  let fail = (_: Error) => {};
  const after = late(new Promise((_, no) => (fail = no)));
  for (const page of [broken, after]) {
    const { page: body, failed } = drawn(page);
    const html = text(await body);
    fail(new Error("gone"));
    expect(await html).toContain("counting");
    expect(failed.mock.calls.map(([error]) => error.message)).toEqual(["gone"]);
  }
});

it("gives up what does not come, and is rejected where it cannot stand at all", async () => {
  const never = drawn(late(new Promise(() => {})), { patience: 30 });
  expect(await text(await never.page)).toContain("counting");
  expect(never.failed).toHaveBeenCalledTimes(1);

  const none = drawn(<Broken />);
  await expect(none.page).rejects.toThrow("gone");
  expect(none.failed).not.toHaveBeenCalled();
  expect(none.ready).not.toHaveBeenCalled();
});
