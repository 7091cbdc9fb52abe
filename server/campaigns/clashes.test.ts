import { afterEach, beforeEach, expect, it } from "vitest";
import { addList } from "../store/audience.ts";
import { createCampaign, getCampaign } from "../store/campaigns.ts";
import { suppress } from "../store/suppressions.ts";
import { smallCampaign, smallNewsletter } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { clashesOf } from "./clashes.ts";
import { cancelSchedule, scheduleCampaign } from "./scheduling.ts";

let services: TestServices;
beforeEach(async () => {
  services = await startTestServices();
});
afterEach(() => services.close());

it("tells what else its readers are to get, with how many get both", async () => {
  const { sql } = services.database;
  const now = services.clock.now();
  const addresses = ["a", "b", "c", "d"].map((name) => `${name}@x.example`);
  const { campaign: all, contacts, member } = await smallCampaign(services, addresses);
  const to = async (name: string, who: readonly number[]) => {
    const list = await addList(sql, name, who, now);
    const audience = { include: [{ kind: "list" as const, id: list }], exclude: [] };
    return (await getCampaign(
      sql,
      await createCampaign(sql, name, smallNewsletter(), now, audience),
    ))!;
  };
  const first = await to("First three", contacts.slice(0, 3));
  const last = await to("Last two", contacts.slice(2));
  const apart = await to("Only d", contacts.slice(3));
  const at = (day: number) => new Date(Date.UTC(2026, 2, day, 9));
  await scheduleCampaign(services, first, at(10), "UTC", member.id);
  await scheduleCampaign(services, apart, at(9), "UTC", member.id);

  const told = async (campaign: typeof all) =>
    (await clashesOf(services, campaign)).map(({ name, people, at: when }) => [
      name,
      people,
      when.getUTCDate(),
    ]);
  expect(await told(last)).toEqual([
    ["Only d", 1, 9],
    ["First three", 1, 10],
  ]);
  expect(await told(all)).toEqual([
    ["Only d", 1, 9],
    ["First three", 3, 10],
  ]);
  // Its own schedule is no clash, and those nobody sends to are none.
  expect(await told((await getCampaign(sql, first.id))!)).toEqual([]);
  await suppress(sql, addresses[0]!, "unsubscribed", now);
  expect(await told(all)).toContainEqual(["First three", 2, 10]);
  await cancelSchedule(services, first.id);
  expect(await told(all)).toEqual([["Only d", 1, 9]]);
  const nobody = await to("Nobody", []);
  expect(await told({ ...nobody, audience: { include: [], exclude: [] } })).toEqual([]);
});
