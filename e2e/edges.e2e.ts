/** The edges as a person meets them: a service in a bad mood, readers of whom nobody knows, a view that is stale. */
import { rmSync } from "node:fs";
import { By } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { type MoodyService, startMoodyService } from "#server/testing/moody-service.ts";
import { serious } from "./axe.ts";
import { seededCopy } from "./own.ts";
import { chooseList, sendNow, toVolunteers } from "./sending.ts";
import { type Running, startApplication } from "./server.ts";
import { Studio } from "./studio.ts";

let folder: string;
let service: MoodyService;
let app: Running;
let studio: Studio;
beforeAll(async () => {
  folder = seededCopy();
  service = await startMoodyService();
  app = await startApplication(folder, { SEPTIMA_SMTP: service.address });
  studio = await Studio.open({}, app);
});
afterAll(async () => {
  await studio?.close();
  await app?.stop();
  await service?.close();
  rmSync(folder, { recursive: true, force: true });
});

/** A campaign to the volunteers alone, sent now. Gives its path and how many get it. */
async function send(name: string): Promise<{ path: string; readers: number }> {
  const path = await studio.newCampaign(name, "Earlier campaign: Seed list");
  const readers = await toVolunteers(studio, path);
  await sendNow(studio, path);
  return { path, readers };
}

/** Sets a field of a day or a time, whose keys depend on the browser's language. */
const set = async (name: string, value: string) =>
  studio.run(
    `const [field, value] = arguments;
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(field, value);
    field.dispatchEvent(new Event("input", { bubbles: true }));
    field.dispatchEvent(new Event("change", { bubbles: true }));`,
    await studio.named(name),
    value,
  );

it("shows a service that refuses in plain words, and goes on once it is mended", async () => {
  service.mood({ phase: "signIn", says: "535 5.7.8 The password is wrong" });
  const { path, readers } = await send("A refused letter");
  await studio.sees("The mail service takes nothing");
  await studio.sees("535 5.7.8 The password is wrong");
  await studio.sees("none of them is marked");
  expect(await serious(studio, "schedule")).toEqual([]);
  await studio.go("/");
  await studio.sees("paused");
  await studio.go(`${path}/schedule`);
  await studio.sees("Try now");
  // Mended only now: else it goes on by itself before anybody can ask for it.
  service.mood(null);
  await studio.until("it to go on, asked for unless it does by itself in this moment", async () => {
    if (/Being sent|It has been sent/.test(await studio.pageText())) return true;
    const [button] = await studio.driver.findElements(By.xpath("//button[.='Try now']"));
    await button?.click();
    return false;
  });
  await studio.sees("It has been sent.", 60_000);
  expect(service.taken).toHaveLength(readers);
  expect(new Set(service.taken).size).toBe(service.taken.length);
}, 180_000);

it("pauses by a button, says what ending it means, and goes on", async () => {
  const before = service.taken.length;
  service.mood({ phase: "content", says: { does: "hang" }, times: 8, keeps: true });
  await send("A paused letter");
  await studio.sees("Being sent");
  // Paused before, fewer lines would have a message on them.
  await studio.until("eight lines to hang", async () => service.strikes === 8, 30_000);
  await studio.click("Pause");
  await studio.sees("Nothing goes out until somebody resumes it.");
  await studio.click("Cancel the rest");
  await studio.sees("would not get it");
  await studio.click("Not now");
  // The lines that hang are cut: what was on them may have come.
  service.mood(null);
  service.cut();
  await studio.click("Resume");
  await studio.sees("Nobody knows whether 8 people got it", 60_000);
  await studio.click("Who they are", "summary");
  expect(await serious(studio, "schedule")).toEqual([]);
  await studio.click("Leave them");
  await studio.click("Yes: leave them");
  await studio.sees("It has been sent.", 60_000);
  await studio.sees("not sent again");
  const taken = service.taken.slice(before);
  expect(new Set(taken).size).toBe(taken.length);
}, 180_000);

it("lets two people choose readers at once, and one of them faster than the line answers", async () => {
  const path = await studio.newCampaign("For whom", "Earlier campaign: Seed list");
  const chosen = async (of: Studio) =>
    of.run<string[]>(
      "return [...document.querySelectorAll('fieldset input:checked')].filter((one) => one.value !== 'none').map((one) => one.closest('fieldset').querySelector('legend').textContent + ' ' + one.value)",
    );
  await studio.go(`${path}/readers`);
  const other = await Studio.open({}, app);
  try {
    await other.go(`${path}/readers`);
    await other.sees("Who gets it");
    await chooseList(studio, "Volunteers", "include");
    await chooseList(studio, "Friends and Patrons", "exclude");
    // Neither has seen what the other does.
    await chooseList(other, "Newsletter", "none");
    const both = ["Friends and Patrons exclude", "Volunteers include"];
    for (const of of [other, studio]) {
      await of.until("both choices", async () => {
        await of.go(`${path}/readers`);
        return JSON.stringify((await chosen(of)).sort()) === JSON.stringify(both);
      });
    }
  } finally {
    await other.close();
  }
}, 120_000);

it("refuses to put a view on a list that has changed since it was looked at", async () => {
  await studio.go("/people?search=garnier");
  const other = await Studio.open({}, app);
  try {
    await studio.sees("in this view");
    const shown = /(\d+) people in this view/.exec(await studio.pageText())![1]!;
    await other.go("/people");
    await other.click("Add");
    // The column of the table behind is called the same.
    const address = await other.named("Email address", "input");
    await address.sendKeys("one.more.garnier@example.org");
    await other.click("Add this person");
    await other.sees("one.more.garnier@example.org");
    await studio.choose("Add everybody in this view to a list", "Volunteers");
    await studio.click(`Add all ${shown}`);
    await studio.sees(`${Number(shown) + 1} people in this view by now, not ${shown}`);
    await studio.sees(`Add all ${Number(shown) + 1}`);
  } finally {
    await other.close();
  }
}, 120_000);

it("tells a time that does not exist, and asks which of two is meant", async () => {
  const path = await studio.newCampaign("At night", "Earlier campaign: Seed list");
  await studio.go(`${path}/schedule`);
  await set("Day", "2031-03-30");
  await set("Time", "01:30");
  await studio.click("Schedule it");
  await studio.until("the yes", async () => {
    await (await studio.find("aside button[type=submit]")).click();
    return (await studio.pageText()).includes("after 00:59 comes 02:00");
  });
  await set("Day", "2031-10-26");
  await studio.sees("which of the two?");
  await studio.choose("Clocks go back that night: which of the two?", "The second");
  await (await studio.find("aside button[type=submit]")).click();
  await studio.sees("Sunday 26 October 2031, 1:30");
}, 120_000);

/** Ends the application by signals a while apart; gives how long that took, ms. */
async function tell(...waits: number[]): Promise<number> {
  const began = Date.now();
  const ended = new Promise((ok) => app.process.once("exit", ok));
  for (const wait of waits) {
    await studio.driver.sleep(wait);
    app.process.kill("SIGTERM");
  }
  await ended;
  return Date.now() - began;
}

it("ends within ten seconds in the middle of a send, at once when it is told twice, and goes on after", async () => {
  service.mood({ phase: "content", says: { does: "hang" } });
  const { path } = await send("A letter cut short");
  const lines = 8;
  // Each with a message whose end has come and is not answered.
  await studio.until("the lines to be busy", async () => service.strikes === lines, 60_000);
  expect(await tell(0)).toBeLessThan(10_000);
  app = await startApplication(folder, { SEPTIMA_SMTP: service.address });
  await studio.until("the send to go on", async () => service.strikes === 2 * lines, 60_000);
  expect(await tell(0, 300)).toBeLessThan(2_000);
  service.mood(null);
  const before = service.taken.length;
  app = await startApplication(folder, { SEPTIMA_SMTP: service.address });
  const again = await Studio.open({}, app);
  try {
    // What was on the lines both times was never taken, but who can know.
    await again.go(`${path}/schedule`);
    await again.sees(`Nobody knows whether ${2 * lines} people got it`, 60_000);
    const taken = service.taken.slice(before);
    expect(new Set(taken).size).toBe(taken.length);
  } finally {
    await again.close();
  }
}, 180_000);
