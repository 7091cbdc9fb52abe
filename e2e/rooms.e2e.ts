/** Moving by the grip, jumping from a finding, calling back, unsubscribing in one click. */
import { By, Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { ownStudio } from "./own.ts";
import { confirm, readersCounted, sendNow, toVolunteers } from "./sending.ts";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

const ROW = (text: string) => `[data-node]:has(> td [data-text="${text}"])`;

it("moves a block by its grip, and lets Escape call a drag off", async () => {
  await studio.newCampaign("By the grip", "Template: Calm newsletter");
  const before = await studio.runningOrder();
  expect(before.indexOf("Button")).toBeGreaterThan(before.indexOf("What this email is about"));
  await studio.clickIn("wide", ROW("label"));
  const grip = await studio.find("[data-grip]");
  const target = (await studio.pointIn("wide", "h1", 0.1))!;
  await studio.driver
    .actions()
    .move({ origin: grip, duration: 0 })
    .press()
    .move({ x: target.x, y: target.y - 10, duration: 120 })
    .move({ ...target, duration: 60 })
    .perform();
  await studio.find("[data-landing]");
  await studio.press(Key.ESCAPE);
  await studio.driver.actions().release().perform();
  expect(await studio.runningOrder()).toEqual(before);

  await studio.clickIn("wide", ROW("label"));
  const point = (await studio.pointIn("wide", "h1", 0.1))!;
  const words = await studio.drag(await studio.find("[data-grip]"), point);
  expect(words).toBe("between the image and “What this email is about”");
  await studio.until("the button above the heading", async () => {
    const order = await studio.runningOrder();
    return order.indexOf("Button") < order.indexOf("What this email is about");
  });
  // The sheets agree with the running order.
  const text = (await studio.sheetText("narrow"))!;
  expect(text.indexOf("Read more")).toBeLessThan(text.indexOf("What this email is about"));
}, 60_000);

it("writes on the narrow sheet, with bold words and a link", async () => {
  await studio.newCampaign("On narrow", "Template: Calm newsletter");
  const text = 'div[data-text="words"]';
  await studio.clickIn("narrow", text, 2);
  await studio.find("[role=toolbar]");
  await studio.selectAll();
  await studio.press("Come ");
  await studio.click("Bold");
  await studio.press("soon");
  await studio.selectAll();
  await studio.click("Link");
  await studio.fill("Address", "ftp://larkmoor.example");
  await studio.click("Link the text");
  await studio.sees("A web address begins with https://");
  await studio.fill("Address", "https://larkmoor.example/soon");
  await studio.click("Link the text");
  await studio.until("the text to have the focus again", () =>
    studio.run(
      "return document.querySelectorAll('iframe')[1].contentDocument.activeElement?.classList.contains('ProseMirror')",
    ),
  );
  await studio.press(Key.ESCAPE);
  await studio.saved();
  await studio.sheetShows("wide", "Come soon");
  const html = await studio.run<string>(
    "return [...document.querySelector('iframe').contentDocument.querySelectorAll('div[data-text=words]')].map(e => e.innerHTML).join()",
  );
  expect(html).toContain('href="https://larkmoor.example/soon"');
  expect(html).toMatch(/<strong>soon<\/strong>/);
});

it("leads from a finding to the spot", async () => {
  const path = await studio.newCampaign("Findings", "Earlier campaign: Autumn, an idea");
  await studio.go(`${path}/proof`);
  await studio.sees("The subject is missing");
  await studio.sees("An image is missing");
  const finding = await studio.driver.findElement(
    By.xpath("//li[contains(., 'An image is missing')]//a[normalize-space(.)='Show']"),
  );
  await finding.click();
  await studio.composing();
  await studio.until("the image to be selected", () =>
    studio.run(
      "return document.querySelector('[data-order][aria-selected=true]')?.innerText.includes('Image')",
    ),
  );
  // The very control stands ready, and what is found there leads to the next.
  await studio.until("the control of the image to have the focus", () =>
    studio.run("return document.activeElement?.ariaLabel === 'Image: choose'"),
  );
  await studio.takePicture("seed-packets");
  await studio.click("An image has no alt text");
  await studio.press("Three packets of seeds");
  // Straight on to the next room, without a rest: the last words count there too.
  await studio.driver.findElement(By.css(`nav a[href="${path}/proof"]`)).click();
  await studio.sees("The subject is missing");
  await studio.until("the finding to be gone", async () => {
    const text = await studio.pageText();
    return (
      text.includes("The subject is missing") &&
      !text.includes("An image has no alt text") &&
      !text.includes("An image is missing")
    );
  });
});

it("schedules at a time, shows it on the desk, and calls it back", async () => {
  const path = await studio.newCampaign("Called back", "Earlier campaign: Seed list");
  await studio.go(`${path}/schedule`);
  await studio.click("Schedule it");
  await confirm(studio, "Yes, schedule for");
  await studio.sees("Scheduled for");
  await studio.go("/");
  await studio.sees("Called back");
  await studio.go(`${path}/schedule`);
  await studio.click("Cancel schedule");
  await studio.sees("When to send");
});

it("takes a reader off by one POST from a mail program", async () => {
  // Readers are counted before and after.
  const own = await ownStudio();
  const { studio } = own;
  try {
    const path = await studio.newCampaign("One click", "Earlier campaign: Seed list");
    const readers = await toVolunteers(studio, path);
    await sendNow(studio, path);
    await studio.sees("It has been sent.", 60_000);

    await studio.go("/outbox?search=The new seed list");
    const message = await studio.run<string>(
      "return document.querySelector('main a[href^=\"/outbox/\"]').getAttribute('href')",
    );
    const source = await (
      await fetch(`${studio.base}${message}/message.eml`, {
        headers: { cookie: `septima_session=${own.cookie}` },
      })
    ).text();
    expect(source).toMatch(/^List-Unsubscribe-Post: List-Unsubscribe=One-Click\r$/m);
    const address = /^List-Unsubscribe: <([^>]+)>/m.exec(source.replace(/\r\n\s+/g, " "))![1]!;
    const answer = await fetch(address, {
      method: "POST",
      body: new URLSearchParams({ "List-Unsubscribe": "One-Click" }),
    });
    expect(answer.status).toBe(200);
    expect(await answer.text()).toMatch(/You are unsubscribed|Vous êtes désabonné/);
    await studio.go(`${path}/readers`);
    const after = await readersCounted(studio, (n) => n > 0);
    expect(after).toBe(readers - 1);
  } finally {
    await own.end();
  }
}, 150_000);
