/** Nothing is lost: reloads, a second tab, refused edits. */
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, inject, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

const TEXT = 'div[data-text="words"]';
const base = inject("base");
const ask = (path: string, init: RequestInit = {}) =>
  fetch(base + path, {
    redirect: "manual",
    ...init,
    headers: {
      cookie: `septima_session=${inject("cookie")}`,
      "sec-fetch-site": "same-origin",
      origin: base,
      ...init.headers,
    },
  });

it("keeps what is typed over a reload, and undo as well", async () => {
  const path = await studio.newCampaign("Over a reload", "Template: Calm newsletter");
  await studio.clickIn("wide", TEXT, 2);
  await studio.selectAll();
  await studio.press("First words.");
  await studio.press(Key.ESCAPE);
  await studio.saved();
  // After a rest, what is typed is a step of its own.
  await studio.driver.sleep(LIMITS.stepRest);
  await studio.clickIn("wide", TEXT, 2);
  await studio.press(" And more");
  // In the middle of writing, without a rest.
  await studio.driver.navigate().refresh();
  await studio.hydrated();
  await studio.composing();
  await studio.sheetShows("wide", "And more");
  await studio.sheetShows("narrow", "First words.");
  await studio.click("Undo");
  await studio.until("the second words to be taken back", async () => {
    const text = await studio.sheetText("wide");
    return text?.includes("First words.") && !text.includes("And more");
  });
  await studio.click("Undo");
  await studio.until("the first words to be taken back", async () => {
    return !(await studio.sheetText("wide"))?.includes("First words.");
  });
  await studio.driver.navigate().refresh();
  await studio.hydrated();
  await studio.composing();
  await studio.click("Redo");
  await studio.sheetShows("wide", "First words.");
  expect(path).toMatch(/^\/campaigns\/\w+$/);
}, 90_000);

it("lets a second tab follow, and shows both versions where they clash", async () => {
  const path = await studio.newCampaign("Two tabs", "Template: Calm newsletter");
  const other = await Studio.open();
  try {
    await other.go(path);
    await other.composing();
    await studio.clickIn("wide", "h1", 2);
    await studio.selectAll();
    await studio.press("From the first tab", Key.ESCAPE);
    await other.sheetShows("narrow", "From the first tab");

    // What the second tab sends takes its time, and the first tab changes the same text meanwhile.
    await other.hold();
    await other.clickIn("wide", "h1", 2);
    await other.selectAll();
    await other.press("Second tab was here", Key.ESCAPE);
    await studio.clickIn("wide", "h1", 2);
    await studio.selectAll();
    await studio.press("First tab again", Key.ESCAPE);
    await studio.saved();
    await other.sees("Somebody else changed words that you were changing");
    // Nothing opens over somebody who goes on writing, and no key is taken from the text.
    await other.clickIn("wide", "div[data-text]", 2);
    await other.press(Key.END, Key.SPACE, "and on", Key.ESCAPE);
    await other.sheetShows("wide", "and on");
    await other.release();
    await other.saved();
    // Both versions stay over a reload.
    await other.go(path);
    await other.composing();
    await other.click("Look at both");
    await other.sees("Second tab was here");
    await other.sees("First tab again");
    await other.click("Use mine instead");
    await studio.sheetShows("narrow", "Second tab was here");
    await studio.sheetShows("narrow", "and on");
  } finally {
    await other.close();
  }
}, 90_000);

it("joins what can be joined in one text, and refuses the rest and what is malformed", async () => {
  const path = await studio.newCampaign("Stale", "Template: Calm newsletter");
  const page = await (await ask(path)).text();
  const heading = /data-order="(t\d+)"[^>]*>(?:(?!data-order).)*What this email is about/s.exec(
    page,
  )![1]!;
  const write = (text: string, from = 0, to = from) => ({
    type: "text",
    node: heading,
    path: ["words"],
    steps: [
      {
        stepType: "replace",
        from,
        to,
        ...(text && { slice: { content: [{ type: "text", text }] } }),
      },
    ],
  });
  const send = async (id: string, tab: string, base: number, edit: unknown) => {
    const change = { id, edit, does: "do", step: id, of: null };
    const answer = await ask(`${path}/edits`, {
      method: "POST",
      body: JSON.stringify({ tab, base, changes: [change] }),
    });
    return { status: answer.status, body: await answer.json() };
  };
  expect((await send("envelope-one", "tab-one", 0, write("One. "))).status).toBe(200);
  // Sent twice, it does no harm.
  const again = await send("envelope-one", "tab-one", 0, write("One. "));
  expect(again.body.edits[0].seq).toBe(1);
  expect((await send("envelope-two", "tab-two", 0, write("Two. "))).status).toBe(200);
  expect((await send("envelope-ten", "tab-one", 2, write("", 0, 8))).status).toBe(200);
  const stale = await send("envelope-six", "tab-two", 2, write("", 2, 4));
  expect(stale.status).toBe(409);
  expect(stale.body.problem).toBe("stale");
  const state = await (await ask(`${path}/history?at=latest`)).text();
  expect(state).toContain(". What this email is about");
  for (const edit of [
    { type: "remove", node: "nobody" },
    { type: "set", node: heading, path: ["level"], value: 9 },
    { type: "set", node: heading, path: ["colour"], value: "red;background:url(x)" },
    { type: "explode" },
  ]) {
    const refused = await send(`bad-${JSON.stringify(edit).length}-------`, "tab-two", 3, edit);
    expect(refused).toMatchObject({ status: 409, body: { problem: "refused" } });
    expect(await (await ask(`${path}/history?at=latest`)).text()).toBe(state);
  }
});

it("opens nothing without a session, the public pages aside", async () => {
  const stranger = (path: string, init?: RequestInit) =>
    fetch(base + path, { redirect: "manual", ...init });
  for (const path of [
    "/",
    "/campaigns",
    "/people",
    "/outbox",
    "/settings",
    "/sheet",
    "/nowhere",
    "/_root.data",
    "/campaigns.data",
  ]) {
    const answer = await stranger(path, { headers: { accept: "text/html" } });
    const target = answer.headers.get("location") ?? (await answer.text());
    expect(`${path} ${target}`).toContain("/sign-in");
    // A page that stands already is told, not led elsewhere.
    if (path.endsWith(".data")) continue;
    const asked = await stranger(path);
    expect(`${path} ${asked.status}`).toBe(`${path} 401`);
  }
  expect((await stranger("/sign-in")).status).toBe(200);
  expect((await ask("/nowhere")).status).toBe(404);
});

it("refuses forged requests and tampered tracking addresses", async () => {
  const forged = await fetch(`${base}/settings`, {
    method: "POST",
    redirect: "manual",
    headers: {
      cookie: `septima_session=${inject("cookie")}`,
      "sec-fetch-site": "cross-site",
      origin: "https://elsewhere.example",
    },
    body: new URLSearchParams({ what: "account", name: "x", email: "x@example.org" }),
  });
  expect(forged.status).toBe(403);
  for (const path of [
    "/o/m1-AAAAAAAAAAAAAAAAAAAA.gif",
    "/c/m1-AAAAAAAAAAAAAAAAAAAA/1",
    "/u/m1-AAAAAAAAAAAAAAAAAAAA",
    "/w/m1-AAAAAAAAAAAAAAAAAAAA",
    "/c/x/1",
  ]) {
    const answer = await fetch(base + path, { redirect: "manual" });
    expect(`${path} ${answer.status}`).toBe(`${path} 404`);
  }
});

it("says what is wrong at the field and keeps what was typed", async () => {
  await studio.go("/settings");
  await studio.fill("From (address)", "not an address");
  await studio.click("Save the sender");
  await studio.sees("This is not a mail address.");
  expect(await (await studio.named("From (address)")).getAttribute("value")).toBe("not an address");

  const path = await studio.newCampaign("Too late", "Template: Calm newsletter");
  await studio.go(`${path}/schedule`);
  await studio.sees("Nobody would get it");
  // As hands do: a value taken from under the page comes back when that is drawn again.
  await studio.fill("Day", "1/1/2020");
  await studio.click("Schedule it");
  await studio.click("Yes, schedule for 0 readers");
  await studio.sees("This time has passed.");
  expect(await (await studio.named("Day")).getAttribute("value")).toBe("1/1/2020");
});

it("gives an unknown address a page with a way back", async () => {
  await studio.go("/no/such/place");
  await studio.sees("There is nothing here");
  await studio.click("Back to the desk");
  await studio.sees("On the desk");
});
