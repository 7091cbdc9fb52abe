import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { createStore } from "zustand";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import type { Picture } from "#core/kinds/kind.ts";
import { followPictures } from "./pictures.ts";
import type { ReadingState } from "./reading.ts";

const picture = (id: string): Picture => ({
  id,
  file: `${id}.png`,
  name: id,
  width: 10,
  height: 10,
  alpha: false,
});
const ID = "a".repeat(64);
const email = (...pictures: string[]) => {
  let n = 0;
  const id = () => `n${++n}`;
  const images = pictures.map((one) => createBlock("image", id, { picture: one }));
  return createDocument([createBand(id, [createColumn(id, images)])]);
};

type State = Pick<ReadingState, "doc" | "surroundings">;
const storeOf = () =>
  createStore<State>(() => ({
    doc: email(),
    surroundings: { pictures: new Map(), derived: new Map() } as never,
  }));
let answers: (Response | Error)[];
let fetch: ReturnType<typeof vi.fn>;
beforeEach(() => {
  vi.useFakeTimers();
  answers = [];
  fetch = vi.fn(async () => {
    const next = answers.shift() ?? Response.json({ pictures: [] });
    if (next instanceof Error) throw next;
    return next;
  });
  vi.stubGlobal("fetch", fetch);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it("asks once for what others put in, and hands it on", async () => {
  const store = storeOf();
  const add = vi.fn();
  const stop = followPictures(store, add);
  answers = [Response.json({ pictures: [picture(ID)] })];
  store.setState({ doc: email(ID) });
  store.setState({ doc: email(ID, ID) });
  await vi.advanceTimersByTimeAsync(300);
  expect(fetch).toHaveBeenCalledTimes(1);
  expect(String(fetch.mock.calls[0]![0])).toContain(ID);
  expect(add).toHaveBeenCalledWith([picture(ID)]);
  // It is not asked for again, even where it is not there.
  store.setState({ doc: email(ID) });
  await vi.advanceTimersByTimeAsync(300);
  expect(fetch).toHaveBeenCalledTimes(1);
  stop();
  store.setState({ doc: email("b".repeat(64)) });
  await vi.advanceTimersByTimeAsync(300);
  expect(fetch).toHaveBeenCalledTimes(1);
});

it("asks again with the next change where there was no line", async () => {
  const store = storeOf();
  const add = vi.fn();
  followPictures(store, add);
  answers = [new Error("no line"), Response.json({ pictures: [picture(ID)] })];
  store.setState({ doc: email(ID) });
  await vi.advanceTimersByTimeAsync(300);
  expect(add).not.toHaveBeenCalled();
  store.setState({ doc: email(ID, ID) });
  await vi.advanceTimersByTimeAsync(300);
  expect(add).toHaveBeenCalledWith([picture(ID)]);
});
