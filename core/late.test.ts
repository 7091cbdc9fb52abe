import { expect, it, vi } from "vitest";
import { late, together } from "./late.ts";

it("is brought once, however often it is asked for", async () => {
  const bring = vi.fn(async () => "it");
  const one = late(bring);
  expect(one.now()).toBeNull();
  const asked = [one.load(), one.load()];
  expect(one.now()).toBeNull();
  expect(await Promise.all(asked)).toEqual(["it", "it"]);
  expect(one.now()).toBe("it");
  expect(await one.load()).toBe("it");
  expect(bring).toHaveBeenCalledTimes(1);
});

it("tells those who only wait for it", async () => {
  const one = late(async () => 7);
  const heard = one.arrived.then((it) => it + 1);
  await one.load();
  expect(await heard).toBe(8);
});

it("can be asked for again where it could not be brought", async () => {
  const bring = vi.fn().mockRejectedValueOnce(new Error("no line")).mockResolvedValue("it");
  const one = late<string>(bring);
  await expect(one.load()).rejects.toThrow("no line");
  expect(one.now()).toBeNull();
  expect(await one.load()).toBe("it");
  expect(await one.arrived).toBe("it");
});

it("several are there when each of them is", async () => {
  const [one, other] = [late(async () => 1), late(async () => 2)];
  const both = together([one, other]);
  await one.load();
  expect(both.now()).toBeNull();
  expect(await both.load()).toBe(true);
  expect([both.now(), await both.arrived, other.now()]).toEqual([true, true, 2]);
  expect(together([]).now()).toBe(true);
});
