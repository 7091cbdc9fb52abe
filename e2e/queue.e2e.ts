/** The queue of edits as hands meet it: taking back on a slow line, a session that ends, a block that goes. */
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { serious } from "./axe.ts";
import { confirm, sendNow, toVolunteers } from "./sending.ts";
import { Studio } from "./studio.ts";

let studio: Studio;
let other: Studio;
beforeAll(async () => {
  studio = await Studio.open();
  other = await Studio.open();
});
afterAll(async () => {
  await studio?.close();
  await other?.close();
});
const undo = (who: Studio) => who.chord(Key.CONTROL, "z");

it("takes back at once on a slow line, and what is typed next stands on that", async () => {
  const path = await studio.newCampaign("Slow line", "Template: Calm newsletter");
  await studio.clickIn("wide", "h1", 2);
  await studio.selectAll();
  await studio.press("good", Key.ESCAPE);
  await studio.saved();
  // After a rest, what is typed is a step of its own.
  await studio.driver.sleep(LIMITS.stepRest);
  await studio.hold();
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.END);
  await studio.press("bye");
  await studio.sheetShows("narrow", "goodbye");
  await undo(studio);
  await studio.until("the word to be gone", async () => {
    return !(await studio.sheetText("wide"))?.includes("goodbye");
  });
  await studio.press("!", Key.ESCAPE);
  await studio.sheetShows("narrow", "good!");
  await studio.release();
  await studio.saved();
  await studio.go(path);
  await studio.composing();
  await studio.sheetShows("wide", "good!");
  // Undo outlives the reload: the sign, then the word before it.
  await studio.click("Undo");
  await studio.until("the sign to be gone", async () => {
    return !(await studio.sheetText("narrow"))?.includes("good!");
  });
  await studio.sheetShows("narrow", "good");
}, 120_000);

it("says that the session has ended, keeps what is written, and goes on after signing in in place", async () => {
  const person = await Studio.open();
  try {
    await person.go("/settings");
    const email = (await (await person.named("You sign in with")).getAttribute("value"))!;
    const password = "a password for tests";
    await person.fill("New password", password);
    await person.click("Save");
    await person.sees("Saved");
    const path = await person.newCampaign("Signed out", "Template: Calm newsletter");
    await person.driver.manage().deleteAllCookies();
    await person.clickIn("wide", "h1", 2);
    await person.press(Key.END);
    await person.press(" and nothing is lost", Key.ESCAPE);
    await person.sees("You are signed out.");
    await person.click("Sign in");
    await person.fill("Email address", email);
    await person.fill("Password", "wrong");
    await person.press(Key.ENTER);
    await person.sees("do not go together");
    await person.fill("Password", password);
    await person.press(Key.ENTER);
    await person.saved();
    expect(await person.pageText()).not.toContain("You are signed out.");
    await studio.go(path);
    await studio.composing();
    await studio.sheetShows("narrow", "and nothing is lost");
  } finally {
    await person.close();
  }
}, 120_000);

/** One person writes on in the heading, on a line that sends nothing yet; the other has the email open. */
async function writesMeanwhile(name: string, words: string): Promise<void> {
  const path = await studio.newCampaign(name, "Template: Calm newsletter");
  await other.go(path);
  await other.composing();
  await studio.hold();
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.END);
  await studio.press(words);
  await studio.sheetShows("narrow", words.trim());
  await other.clickRow("What this email is about");
}

it("offers the words back that were written in a block somebody deleted", async () => {
  await writesMeanwhile("A block goes", " with words of mine");
  await other.press(Key.DELETE);
  await other.saved();
  await studio.sees("Your words are kept.");
  await studio.release();
  await studio.click("Look at it");
  await studio.sees("with words of mine");
  expect(await serious(studio, "words kept")).toEqual([]);
  await studio.click("Put it back with my words");
  await studio.saved();
  await other.sheetShows("narrow", "with words of mine");
}, 120_000);

it("keeps what is written in a block that somebody moves meanwhile", async () => {
  await writesMeanwhile("A block moves", " wherever");
  await other.chord(Key.ALT, Key.ARROW_DOWN);
  await other.saved();
  await studio.release();
  await studio.press(Key.ESCAPE);
  await studio.saved();
  await other.sheetShows("narrow", "What this email is about wherever");
  expect(await studio.pageText()).not.toContain("Your words are kept.");
}, 120_000);

it("keeps the draft of a scheduled campaign apart from what goes out, and brings the two together", async () => {
  const path = await studio.newCampaign("Scheduled", "Earlier campaign: Seed list");
  await studio.go(`${path}/schedule`);
  await studio.click("Schedule it");
  await confirm(studio, "Yes, schedule for");
  await studio.sees("Cancel schedule");
  await studio.go(path);
  await studio.composing();
  expect(await studio.pageText()).not.toContain("It is scheduled.");
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.END);
  await studio.press(" and later", Key.ESCAPE);
  await studio.saved();
  await studio.sees("1 change is not in what goes out");
  expect(await serious(studio, "a draft")).toEqual([]);
  await studio.click("Show what goes out");
  await studio.sees("This is what goes out.");
  await studio.until("the frozen words", async () => {
    return !(await studio.sheetText("narrow"))?.includes("and later");
  });
  await studio.click("Show it as it is now");
  await studio.click("Discard the changes");
  await studio.sees("The draft is what goes out again.");
  await studio.until("the words to be gone", async () => {
    return !(await studio.sheetText("narrow"))?.includes("and later");
  });
  await studio.click("Undo");
  await studio.sheetShows("narrow", "and later");
  await studio.sees("not in what goes out");
  // What is still on its way is taken along: it is seen here, so it goes out.
  await studio.hold("/edits");
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.END);
  await studio.press(" still");
  await studio.sheetShows("narrow", "and later still");
  await studio.click("Replace what goes out");
  await studio.driver.sleep(300);
  expect(await studio.pageText()).toContain("It is scheduled.");
  await studio.release();
  await studio.until("the bar to go", async () => {
    return !(await studio.pageText()).includes("It is scheduled.");
  });
  await studio.go(`${path}/schedule`);
  await studio.click("Cancel schedule");
}, 120_000);

it("keeps in a campaign of their own the words that were on their way when the sending began", async () => {
  const path = await studio.newCampaign("Sent meanwhile", "Earlier campaign: Seed list");
  await toVolunteers(other, path);
  await studio.hold("/edits");
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.END);
  await studio.press(" too late", Key.ESCAPE);
  await sendNow(other, path);
  await other.sees("It has been sent.", 60_000);
  await studio.release();
  await studio.sees("It is being sent: 1 change is not in it.");
  expect(await serious(studio, "what was too late")).toEqual([]);
  await studio.click("Keep them in a campaign of their own");
  await studio.until("the other campaign", async () => {
    return !(await studio.driver.getCurrentUrl()).includes(path);
  });
  await studio.composing();
  await studio.sheetShows("narrow", "too late");
  await studio.saved();
  await studio.go(path);
  await studio.composing();
  await studio.sees("Start another from it");
  expect(await studio.sheetText("narrow")).not.toContain("too late");
}, 120_000);
