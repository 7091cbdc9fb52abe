/** Live content as a designer meets it: a feed from a page's address, its items on the shelf, an article in an email. */
import { By, Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { walk } from "#core/document/index.ts";
import type { ToldItem } from "#core/items/index.ts";
import { doc, phrase } from "#core/text/index.ts";
import { serious } from "./axe.ts";
import { moveOn } from "./stand-ins.ts";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

/** Shows the articles of the notebook on the shelf. */
async function showNotebook(): Promise<void> {
  // How many it has by now depends on the time of its site.
  const name = "The gardeners’ notebook";
  await studio.until("the notebook's items", async () => {
    const path = `//button[@aria-pressed][starts-with(normalize-space(.), '${name}')]`;
    const [tab] = await studio.driver.findElements(By.xpath(path));
    await tab!.click();
    return (await tab!.getAttribute("aria-pressed")) === "true";
  });
  await studio.sees("However old");
}

it("a feed is added from a page's address, and gains items as time goes on", async () => {
  await studio.go("/library/feeds");
  await studio.fill("A new feed", "http://169.254.169.254/latest/meta-data");
  await studio.press(Key.ENTER);
  await studio.sees("This address leads into a private network.");
  await studio.fill("A new feed", "walks.larkmoor.example");
  await studio.press(Key.ENTER);
  await studio.sees("articles, the newest first");
  await studio.until("the images to have come", () =>
    studio.run<boolean>(
      "return [...document.querySelectorAll('main li img')].filter((one) => one.naturalWidth > 0).length > 3",
    ),
  );
  expect(await serious(studio, "a feed")).toEqual([]);
  const items = async () =>
    Number(/(\d+) articles, the newest first/.exec(await studio.pageText())![1]);
  const before = await items();
  // It brings something new every two days.
  await moveOn(studio, 2);
  await studio.go("/library/feeds");
  await studio.click("Walks and workshops", "a");
  await studio.until("an item more", async () => (await items()) > before);
  await (await studio.find("input[name=search]")).sendKeys("dawn");
  await studio.until("what is searched", () =>
    studio.run<boolean>(
      "const all = [...document.querySelectorAll('main li h3')]; return all.length > 0 && all.every((one) => /dawn/i.test(one.textContent))",
    ),
  );
}, 120_000);

it("an article is dragged from the shelf, another is put in by keyboard alone", async () => {
  const path = await studio.newCampaign("With articles", "Template: Calm newsletter");
  await studio.click("Items…");
  await showNotebook();
  await studio.fill("Search items", "frost");
  await studio.until("the item that is searched", () =>
    studio.run<boolean>(
      "const all = [...document.querySelectorAll('[data-item]')]; return all.length > 0 && all.every((one) => /frost/i.test(one.textContent))",
    ),
  );
  const card = await studio.find("[data-item]");
  const point = (await studio.pointIn("wide", "h1", 0.9))!;
  await studio.drag(card, point);
  await studio.saved();
  await studio.sheetShows("wide", "What frost does for parsnips");
  await studio.sheetShows("narrow", "A few cold nights turn their starch to sugar.");
  await studio.sees("in this email");
  await studio.until("its image", () =>
    studio.inSheet<boolean>(
      "wide",
      "return [...page.querySelectorAll('img')].some((one) => one.alt === 'What frost does for parsnips' && one.naturalWidth > 0)",
    ),
  );
  // The keys go from the search to an item, along them, and put one in.
  await studio.fill("Search items", "the");
  // Not those of the words before, which change under the hand.
  await studio.until("several items", () =>
    studio.run<boolean>(
      "return document.querySelectorAll('[data-items][aria-busy=false] [data-item]').length > 2",
    ),
  );
  await studio.press(Key.TAB, Key.TAB, Key.ARROW_RIGHT);
  const title = await studio.run<string>(
    "const all = [...document.querySelectorAll('[data-item]')]; return all.indexOf(document.activeElement) === 1 ? document.activeElement.querySelector('span span').textContent : 'the focus is elsewhere'",
  );
  await studio.press(Key.ENTER);
  await studio.saved();
  await studio.sheetShows("wide", title);
  expect(await serious(studio, "the shelf")).toEqual([]);
  // It is let go of, and stays as it is.
  await studio.click("Unlink");
  await studio.saved();
  await studio.sees("It is linked to no item of a feed.");
  await studio.go(path);
  await studio.composing();
  await studio.sheetShows("narrow", title);
}, 120_000);

it("an article whose source has changed says so, and is taken anew but for what was changed by hand", async () => {
  const path = await studio.newCampaign("Changed since", "Template: Calm newsletter");
  await studio.click("Items…");
  await showNotebook();
  await (await studio.find("[data-item]")).click();
  await studio.saved();
  const { root } = await studio.storedDocument(path);
  const article = [...walk(root)].find(({ type }) => type === "article")!;
  const { told } = article.props.item as unknown as { told: ToldItem };
  // As if it had been taken when its source said something else, and its title been written over since.
  const before = { ...told, title: "An older title", summary: "Older words." };
  const set = (way: string[], value: unknown) => ({
    type: "set",
    node: article.id,
    path: way,
    value,
  });
  const edit = {
    type: "group",
    edits: [
      set(["item", "told"], before),
      set(["words"], doc("Older words.")),
      set(["title"], phrase("My own title")),
    ],
  };
  const id = "changed-since-01";
  const sent = await studio.driver.executeAsyncScript<number>(
    `const [path, body, done] = arguments;
     fetch(path + '/history?at=latest').then((r) => r.json()).then(({ seq }) =>
       fetch(path + '/edits', { method: 'POST', body: JSON.stringify({ ...body, base: seq }), headers: { 'Content-Type': 'application/json' } }))
       .then((r) => done(r.status))`,
    path,
    { tab: "another-tab", changes: [{ id, edit, does: "do", step: id, of: null }] },
  );
  expect(sent).toBe(200);
  await studio.go(path);
  await studio.composing();
  await studio.sheetShows("wide", "My own title");
  await studio.clickRow("My own title");
  await studio.sees("An article has changed at its source");
  await studio.sees(`Its title is now “${told.title}”.`);
  await studio.click("Update from the item");
  await studio.saved();
  await studio.sheetShows("narrow", told.summary);
  await studio.sheetShows("narrow", "My own title");
  await studio.until("nothing to be said of it", async () => {
    return !(await studio.pageText()).includes("has changed at its source");
  });
}, 120_000);
