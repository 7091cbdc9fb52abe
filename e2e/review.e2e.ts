/** A review by link: somebody without an account looks, comments and decides; the link reaches nothing else. */
import { By, Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { serious } from "./axe.ts";
import { type OwnStudio, ownStudio } from "./own.ts";
import type { Studio } from "./studio.ts";

let own: OwnStudio;
let studio: Studio;
/** Somebody who is signed in nowhere. */
let reviewer: Studio;
let path: string;
let link: string;
beforeAll(async () => {
  own = await ownStudio();
  ({ studio } = own);
  reviewer = await own.another();
  await reviewer.driver.manage().deleteAllCookies();
});
afterAll(() => own?.end());

const open = async () => {
  await reviewer.driver.get(link);
  await reviewer.sees("Your decision");
};
const decided = async (words: string) => {
  await reviewer.sees(words);
  await studio.go(`${path}/proof`);
};

it("asks somebody to look, who gets a letter with a link of their own", async () => {
  path = await studio.newCampaign("Under review", "Earlier campaign: December at Larkmoor");
  await studio.go(`${path}/proof`);
  await studio.click("Ask somebody to look…");
  await studio.fill("Name of the reviewer", "Jonas Weber");
  await studio.fill("Email address", "jonas(at)board.example");
  await studio.click("Schedule only with their approval", "label");
  await studio.click("Make a link");
  await studio.sees("This is not a mail address.");
  await studio.fill("Email address", "jonas@board.example");
  await studio.click("Make a link");
  await studio.sees("The link is made");
  await studio.sees("has not decided yet");
  await studio.go(`${path}/schedule`);
  await studio.sees("Not approved in this state yet: Jonas Weber");
  await studio.until("the letter", async () => {
    await studio.go("/outbox?search=jonas@board.example");
    return (await studio.pageText()).includes("Please look at “Under review”");
  });
  await studio.driver.findElement(By.partialLinkText("Please look at")).click();
  await studio.driver.switchTo().frame(await studio.find("iframe"));
  link = (await studio.find('a[href*="/review/"]').then((one) => one.getAttribute("href")))!;
  await studio.driver.switchTo().defaultContent();
  expect(link).toMatch(/\/review\/[0-9a-z]+\.[\w-]{43}$/);
});

it("shows all versions with made-up values, at any width, and takes a comment at a block", async () => {
  await open();
  await reviewer.sees("for Jonas Weber");
  await reviewer.sees("1 of 4");
  const words = () =>
    reviewer.run<string>(
      "return document.querySelector('main iframe')?.contentDocument.body?.innerText ?? ''",
    );
  await reviewer.until("the email", async () => (await words()).includes("Dear First name"));
  await reviewer.click("Next version");
  await reviewer.until("another version", async () => (await words()).includes("At Saltmere"));
  await reviewer.click("Previous version");
  await reviewer.choose("Shown at", "320 px");
  await reviewer.until("a narrow sheet", async () =>
    reviewer.run("return document.querySelector('main iframe').style.width === '320px'"),
  );
  await reviewer.choose("Shown at", "Plain text");
  await reviewer.until("the text", async () =>
    (await reviewer.pageText()).includes("The early flowers are up\n====="),
  );
  await reviewer.choose("Shown at", "768 px");
  expect(await serious(reviewer, "review")).toEqual([]);

  // A click on the email says what the comment is about.
  await reviewer.until("the email again", async () => (await words()).includes("Dear First name"));
  await reviewer.driver.switchTo().frame(await reviewer.find("main iframe"));
  await reviewer.driver.findElement(By.css("h1")).click();
  await reviewer.driver.switchTo().defaultContent();
  await reviewer.until("the block", async () =>
    reviewer.run(
      "return document.querySelector('[aria-label=About]').innerText.includes('The early flowers')",
    ),
  );
  await reviewer.fill("A comment", "<b>Early</b> flowers, in December?");
  await reviewer.click("Comment", "button");
  await reviewer.sees("<b>Early</b> flowers, in December?");
  await reviewer.fill("A note with it", "One word is wrong.");
  await reviewer.click("Ask for changes");
  await decided("You have asked for changes");
  await studio.sees("asks for changes");
  await studio.sees("One word is wrong.");
});

it("shows comments where the email is composed, where they are followed, answered and resolved", async () => {
  await studio.go(path);
  await studio.composing();
  await studio.click("Comments, 1 open", "button");
  await studio.sees("<b>Early</b> flowers, in December?");
  await studio.click("The early flowers are up", "button");
  await studio.until("the block to be chosen", async () =>
    studio.run(
      "return document.querySelector('[role=treeitem][aria-selected=true]')?.innerText.includes('The early flowers')",
    ),
  );
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.END);
  await studio.press(" in the glasshouse", Key.ESCAPE);
  await studio.saved();
  await studio.click("Reply");
  await studio.fill("Your reply", "In the glasshouse, yes.");
  await studio.click("Send the reply");
  await studio.sees("In the glasshouse, yes.");
  await studio.click("Resolve");
  await studio.sees("Nothing has been said yet.");
  await studio.sees("Show 1 resolved");
});

it("approves the state that is shown; a later change makes that stale, and an approval lets it go", async () => {
  await open();
  await reviewer.sees("Changed since:");
  await reviewer.click("Show 1 resolved");
  await reviewer.sees("In the glasshouse, yes.");
  // Somebody changes it while it is looked at.
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.END);
  await studio.press("!", Key.ESCAPE);
  await studio.saved();
  await reviewer.click("Approve");
  await reviewer.sees("The email has changed since it was shown here: look at it once more.");
  await reviewer.click("Approve");
  await decided("You have approved the email as it is now.");
  await studio.sees("approves it");
  await studio.go(`${path}/schedule`);
  await studio.until("nothing to be missing", async () => {
    const text = await studio.pageText();
    return text.includes("Schedule") && !text.includes("Not approved in this state yet");
  });
  await studio.go(path);
  await studio.composing();
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.END);
  await studio.press("!", Key.ESCAPE);
  await studio.saved();
  await studio.go(`${path}/proof`);
  await studio.sees("approved an earlier state");
  await studio.sees("Changed since:");
  await open();
  await reviewer.sees("You have approved it, and it has changed since.");
  await reviewer.click("Approve");
  await reviewer.sees("You have approved the email as it is now.");
});

it("reaches nothing else by the link, and nothing at all once it has ended", async () => {
  await open();
  const token = link.slice(link.lastIndexOf("/") + 1);
  const asked: [string, object?][] = [
    ["/"],
    ["/campaigns"],
    [path],
    [`${path}/proof`],
    [`${path}/readers`],
    [`${path}/print`],
    [`${path}/sights?contacts=1`],
    [`${path}/comments`],
    [`${path}/comments`, { do: "comment", words: "x", node: null, replyTo: null }],
    [`${path}/edits`, { tab: "tab1", base: 0, changes: [] }],
    [`${path}/follow?since=0`],
    [`${path}/export/html?tags=yes`],
    ["/people"],
    ["/people/export.csv"],
    ["/people/contacts/1"],
    ["/library"],
    ["/outbox"],
    ["/settings"],
    [`/review/${token}/sights?contacts=1`],
    [`/review/2.${token.split(".")[1]}`],
    [`/review/${token.slice(0, -1)}/email?version=any&as=sent`],
    [`/p/${token}`],
    [`/w/${token}`],
  ];
  for (const [address, json] of asked) {
    const [status, at] = await reviewer.run<[number, string]>(
      `return fetch(arguments[0], arguments[1] ? { method: 'POST', body: JSON.stringify(arguments[1]), headers: { 'Content-Type': 'application/json' } } : { headers: { Accept: 'text/html' } })
        .then((answer) => [answer.status, new URL(answer.url).pathname])`,
      address,
      json ?? null,
    );
    expect(status >= 400 || at === "/sign-in", `${address}: ${status} at ${at}`).toBe(true);
  }
  await studio.go(`${path}/proof`);
  await studio.click("End the link of Jonas Weber");
  await studio.sees("The link has ended.");
  await reviewer.driver.get(link);
  await reviewer.sees("This link has ended");
  const gone = await reviewer.run<number>(
    "return fetch(arguments[0], { method: 'POST', body: JSON.stringify({ do: 'comment', words: 'x', node: null, replyTo: null }), headers: { 'Content-Type': 'application/json' } }).then((answer) => answer.status)",
    `/review/${token}/email`,
  );
  expect(gone).toBe(404);
});

it("puts all versions on paper, on one sheet or on a page each", async () => {
  await studio.go(`${path}/proof`);
  await studio.click("Print", "a");
  await studio.sees("names and other values are made up");
  const frames = () => studio.run<number>("return document.querySelectorAll('iframe').length");
  await studio.until("a sheet of each version", async () => (await frames()) === 4);
  expect(await serious(studio, "print")).toEqual([]);
  await studio.click("A page each");
  await studio.until("two sheets of each", async () => (await frames()) === 8);
});
