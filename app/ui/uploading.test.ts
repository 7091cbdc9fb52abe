import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { picture } from "#core/testing/rendered.ts";
import { UploadError, type uploadPicture } from "./upload.ts";
import { createUploading } from "./uploading.ts";

const sending = vi.fn<typeof uploadPicture>();
const file = (name: string) => new File(["x"], name);
const sent = (name: string) => ({ ...picture(name.repeat(64).slice(0, 64)), name });
const rested = () => new Promise((ok) => setTimeout(ok));

beforeEach(() => {
  sending.mockReset();
  sending.mockImplementation(async ({ name }) => sent(name));
  vi.stubGlobal("reportError", vi.fn());
});
afterEach(() => vi.unstubAllGlobals());

function made() {
  const uploading = createUploading(sending);
  const taken: string[] = [];
  return {
    taken,
    uploading,
    shown: () => uploading.store.getState().uploads,
    send: (...names: string[]) =>
      uploading.send(names.map(file), (one) => void taken.push(one.name)),
  };
}

it("sends one after another, and each arrives in its order", async () => {
  const { send, taken, shown } = made();
  let first = () => {};
  sending.mockImplementationOnce(
    ({ name }) =>
      new Promise((ok) => {
        first = () => ok(sent(name));
      }),
  );
  send("a", "b");
  await rested();
  expect(sending).toHaveBeenCalledTimes(1);
  expect(shown().map(({ name }) => name)).toEqual(["a", "b"]);
  first();
  await rested();
  expect(taken).toEqual(["a", "b"]);
  expect(shown()).toEqual([]);
});

it("shows how far each has come", async () => {
  const { send, shown } = made();
  sending.mockImplementationOnce((_, { onShare } = {}) => {
    onShare!(0.4);
    return new Promise(() => {});
  });
  send("a");
  await rested();
  expect(shown()).toMatchObject([{ name: "a", share: 0.4, error: null }]);
});

it("says what was refused, offers to make it smaller once, and goes on with the next", async () => {
  const { send, taken, shown } = made();
  sending.mockRejectedValueOnce(new UploadError("It is too large.", true));
  send("big", "b");
  await rested();
  expect(taken).toEqual(["b"]);
  expect(shown()).toMatchObject([{ name: "big", share: null, error: "It is too large." }]);
  sending.mockRejectedValueOnce(new UploadError("Still too large.", true));
  shown()[0]!.shrink!();
  await rested();
  expect(sending.mock.lastCall![1]).toMatchObject({ shrink: true });
  expect(shown()).toMatchObject([{ error: "Still too large.", shrink: null }]);
});

it("goes on with the next whatever becomes of one that has arrived", async () => {
  const uploading = createUploading(sending);
  const taken: string[] = [];
  uploading.send([file("a"), file("b")], ({ name }) => {
    if (name === "a") throw new Error("no room");
    taken.push(name);
  });
  await rested();
  expect(taken).toEqual(["b"]);
  expect(uploading.store.getState().uploads).toMatchObject([
    { name: "a", error: "The image could not be put in." },
  ]);
  uploading.dismiss(uploading.store.getState().uploads[0]!.id);
  expect(uploading.store.getState().uploads).toEqual([]);
});
