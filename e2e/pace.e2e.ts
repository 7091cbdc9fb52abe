/** Sending over a time, how many emails a person gets, and what the sending domain publishes: with settings of their own. */
import { By } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { serious } from "./axe.ts";
import { type OwnStudio, ownStudio } from "./own.ts";
import { confirm, sendNow, toVolunteers } from "./sending.ts";
import type { Studio } from "./studio.ts";

let own: OwnStudio;
let studio: Studio;
let readers: number;
let path: string;
beforeAll(async () => {
  own = await ownStudio();
  studio = own.studio;
  path = await studio.newCampaign("Over a time", "Earlier campaign: Seed list");
  readers = await toVolunteers(studio, path);
}, 120_000);
afterAll(() => own?.end());

it("goes out at each reader's own clock in waves, as the plan said, and can be called back", async () => {
  await studio.go(`${path}/schedule`);
  await studio.click("Each reader’s own", "button");
  await studio.sees("Time zone of those without one");
  await studio.fill("At most per hour", "0");
  await studio.click("Schedule it");
  await confirm(studio, "Yes, schedule for");
  await studio.sees("At least 1 an hour.");
  await studio.click("Not yet");
  await studio.fill("At most per hour", String(Math.ceil(readers / 3)));
  await studio.sees("It goes in 3 waves, the last 2 hours after the first.");
  await studio.sees("time zones: it goes out from");
  expect(await serious(studio, "the plan")).toEqual([]);
  await studio.click("Schedule it");
  await confirm(studio, "Yes, schedule for");
  await studio.sees("Each reader gets it when their own clock shows 09:00.");
  await studio.sees(`It goes in waves of ${Math.ceil(readers / 3)} an hour.`);
  expect(await serious(studio, "scheduled")).toEqual([]);
  await studio.click("Cancel schedule");
  await studio.sees("When to send");
}, 120_000);

it("a wave goes, and the page says when the next one does", async () => {
  await studio.go(`${path}/schedule`);
  await studio.click("Now", "button");
  await studio.fill("At most per hour", String(readers - 1));
  await studio.click("Send it now");
  await confirm(studio, "Yes, send to");
  await studio.sees("1 reader waits for their time; the next go out on");
  await studio.click("Cancel the rest");
  await confirm(studio, "Yes: cancel the rest");
  await studio.sees("It was cancelled half-way: 1 reader did not get it.");
  // The log tells of each message what became of it.
  await (await studio.find("summary")).click();
  await studio.choose("Outcome", "cancelled");
  await studio.until("one line alone", async () => {
    const rows = await studio.driver.findElements(By.css('table[aria-label="Log"] tbody tr'));
    return rows.length === 1 && (await rows[0]!.getText()).includes("cancelled");
  });
  await studio.choose("Outcome", "accepted");
  await studio.fill("Search the log", "nobody-of-this-name");
  await studio.sees("Nothing here.");
}, 120_000);

it("who has had enough emails lately gets no other, and the readers' room says how many", async () => {
  await studio.go("/settings");
  await studio.fill("Emails to a person, at most", "1");
  await studio.fill("Within (days)", "1");
  await studio.click("Save the limits");
  await studio.sees("Saved");
  const other = await studio.newCampaign("One more", "Earlier campaign: Seed list");
  const counted = await toVolunteers(studio, other);
  // All but the one to whom the first campaign did not go any more.
  expect(counted).toBe(1);
  await studio.sees("Had enough emails lately");
  // The number in the room is the number that goes out.
  await sendNow(studio, other);
  await studio.sees("It has been sent.");
  expect(await studio.pageText()).toMatch(new RegExp(`(^|\\n)${counted}\\s+accepted`));
}, 120_000);

it("those who did not open get it again with another subject, as a draft of its own", async () => {
  await studio.click("See the results");
  await studio.sees("Send again to those who did not open");
  expect(await serious(studio, "results")).toEqual([]);
  await studio.click("Make the draft");
  await studio.sees("Write another subject.");
  await studio.fill("Another subject", "Seeds, once more");
  await studio.click("Make the draft");
  await studio.composing();
  await studio.sees("One more, again");
}, 120_000);

it("says what a new sending domain has to publish, and the proof says that it does not yet", async () => {
  await studio.go("/settings");
  await studio.sees("Emails are signed for larkmoor.example");
  await studio.until("the records to be there", async () => {
    return (await studio.pageText()).match(/Published/g)?.length === 4;
  });
  await studio.fill("From (address)", "news@brookside.example");
  await studio.run("document.querySelector('input[name=fromAddress]').form.requestSubmit()");
  await studio.sees("Emails are signed for brookside.example");
  await studio.sees("_domainkey.brookside.example");
  await studio.sees("v=DKIM1; k=ed25519; p=");
  await studio.click("Ask DNS again");
  await studio.sees("_dmarc.brookside.example");
  expect(await serious(studio, "the sending domain")).toEqual([]);
}, 120_000);

it("watches a send to its end whose outbox dies and comes back, and nobody's message is lost or doubled", async () => {
  await studio.go("/settings");
  await studio.fill("Emails to a person, at most", "100");
  await studio.click("Save the limits");
  await studio.sees("Saved");
  await studio.go("/outbox");
  await studio.click("down", "button");
  await studio.sees("The service is down.");
  expect(await serious(studio, "the outbox")).toEqual([]);
  const dying = await studio.newCampaign("Through thick and thin", "Earlier campaign: Seed list");
  const all = await toVolunteers(studio, dying);
  await sendNow(studio, dying);
  await studio.sees("The mail service");
  await studio.sees("Paused");
  await studio.go("/outbox");
  await studio.click("cutting the line", "button");
  await studio.sees("The service is cutting the line.");
  await studio.click("well", "button");
  await studio.sees("The service is well.");
  await studio.go(`${dying}/schedule`);
  // It tries by itself after a while; whoever looks on does not wait for that.
  await studio.run(
    "[...document.querySelectorAll('button')].find((one) => one.innerText === 'Try now')?.click()",
  );
  await studio.sees("It has been sent.", 60_000);
  expect(await studio.pageText()).toMatch(new RegExp(`(^|\\n)${all}\\s+accepted`));
}, 120_000);
