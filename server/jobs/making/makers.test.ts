import { afterEach, beforeEach, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { scheduleCampaign } from "../../campaigns/scheduling.ts";
import { getCampaign } from "../../store/campaigns.ts";
import { getLaunch } from "../../store/launches/freeze.ts";
import { TEST_KEY_FILE } from "../../testing/mail-keys.ts";
import { smallCampaign } from "../../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../../testing/services.ts";
import { type Making, partsOf, type Secrets, type ToMake } from "./make.ts";
import { makersOf } from "./makers.ts";

let services: TestServices;
let making: Making;
let secrets: Secrets;
beforeEach(async () => {
  services = await startTestServices();
  const { campaign, member } = await smallCampaign(services, ["one@example.org"]);
  await scheduleCampaign(services, campaign, null, "UTC", member.id);
  const { launchId } = (await getCampaign(services.database.sql, campaign.id))!;
  const launch = (await getLaunch(services.database.sql, launchId!))!;
  making = { variants: [partsOf(launch)], files: [] };
  const key = "a key for tests that is long enough";
  secrets = { key, mail: TEST_KEY_FILE, config: services.config };
});
afterEach(() => services.close());

const reader = (id: number): ToMake => ({
  ...{ id, email: `r${id}@x.example`, values: {}, bits: "", variant: 0, uncounted: false },
  date: new Date("2026-03-02T10:00:00Z"),
});

it("makes for each what is theirs, to the byte the same however often", async () => {
  const work = makersOf(secrets, null)(making);
  const [one, again, other] = await Promise.all([1, 1, 2].map((id) => work.make(reader(id))));
  expect(one!.to).toBe("r1@x.example");
  expect(one!.bytes.equals(again!.bytes)).toBe(true);
  expect(one!.bytes.equals(other!.bytes)).toBe(false);
  work.end();
});

const entry = new URL("./worker.ts", import.meta.url);
it("a thread makes the same, after the first few", async () => {
  const here = makersOf(secrets, null)(making);
  const work = makersOf(secrets, entry)(making);
  for (let id = 1; id <= LIMITS.makeHere; id++) await work.make(reader(id));
  for (const id of [1, 2, 3]) {
    const [ours, its] = [await here.make(reader(id)), await work.make(reader(id))];
    expect(its.bytes.equals(ours.bytes)).toBe(true);
    expect([its.from, its.to]).toEqual([ours.from, ours.to]);
  }
  work.end();
  await expect(work.make(reader(9))).rejects.toThrow("A thread ended");
});
