import { RouterContextProvider } from "react-router";
import { expect, it, vi } from "vitest";
import { begun, begunContext, memberContext, servicesContext } from "#server/http/context.ts";
import { late } from "./request.ts";

/** A request, and the page that is drawn for it. */
function asked() {
  const context = new RouterContextProvider();
  const page = begun();
  const last = vi.fn(<T>(work: () => T) => work());
  context.set(servicesContext, { clock: { now: () => new Date(0) }, database: { last } } as never);
  context.set(memberContext, {} as never);
  context.set(begunContext, page);
  return { context, page, last };
}
const moment = () => new Promise((ok) => setTimeout(ok));

it("begins what comes late when the page has begun to go out, behind what others ask", async () => {
  const { context, page, last } = asked();
  const work = vi.fn(async () => 7);
  const result = late(context, work);
  await moment();
  expect(work).not.toHaveBeenCalled();
  page.go();
  expect(await result).toBe(7);
  expect(last).toHaveBeenCalledTimes(1);
});

it("computes nothing that would keep the first bytes back", async () => {
  const line = { bytesWritten: 500 };
  const page = begun(line);
  const work = vi.fn(async () => {});
  page.first(work);
  page.go();
  await moment();
  expect(work).not.toHaveBeenCalled();
  line.bytesWritten = 700;
  await page.going;
  expect(work).toHaveBeenCalledTimes(1);
});

it("does not wait for ever for a line on which nothing goes", async () => {
  const page = begun({ bytesWritten: 500 });
  page.go();
  await page.going;
});

it("lets what the page is waiting for come first", async () => {
  const { context, page } = asked();
  const work = vi.fn(async () => 7);
  const result = late(context, work);
  let come = () => {};
  const first = vi.fn(
    () =>
      new Promise<void>((ok) => {
        come = ok;
      }),
  );
  page.first(first);
  await moment();
  expect(first).not.toHaveBeenCalled();
  page.go();
  await moment();
  expect(work).not.toHaveBeenCalled();
  come();
  expect(await result).toBe(7);
});

it("goes on where what comes first has failed", async () => {
  const { context, page } = asked();
  const result = late(context, async () => 7);
  page.first(() => {
    throw new Error("cannot be made");
  });
  page.first(() => Promise.reject(new Error("nor this")));
  page.go();
  expect(await result).toBe(7);
});

it("tells the page alone of what failed late", async () => {
  const { context, page } = asked();
  const result = late(context, async () => {
    throw new Error("cannot be counted");
  });
  page.go();
  // Nobody listens yet: that must not end the process.
  await moment();
  await expect(result).rejects.toThrow("cannot be counted");
});

it("waits for no page where none is drawn", async () => {
  const { context } = asked();
  const bare = new RouterContextProvider();
  bare.set(servicesContext, context.get(servicesContext));
  bare.set(memberContext, {} as never);
  expect(await late(bare, async () => "there")).toBe("there");
});
