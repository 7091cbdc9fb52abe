/** Thousands of pictures and segments: every one is reached, wherever one is chosen. */
import { rmSync } from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, expect, it } from "vitest";
import { openInWorker } from "#server/db/open.ts";
import { seededCopy } from "./own.ts";
import { type Running, startApplication } from "./server.ts";
import { Studio } from "./studio.ts";

let folder: string;
let app: Running;
let studio: Studio;
beforeAll(async () => {
  folder = seededCopy();
  const worker = new URL("../build/server/db-worker.js", import.meta.url);
  const database = await openInWorker(join(folder, "database"), worker);
  await database.sql`insert into pictures (id, file, name, width, height, alpha, bytes, created_at)
    select md5(n::text) || md5('x' || n), p.file, 'Late frost ' || n, p.width, p.height, p.alpha, p.bytes,
      timestamptz '2020-01-01' + make_interval(secs => n)
    from generate_series(1, 5000) n, lateral (select * from pictures order by name limit 1) p`;
  await database.sql`insert into segments (id, name, rule, created_at)
    select 'many' || n, 'Walkers ' || n, s.rule, now()
    from generate_series(1, 2000) n, lateral (select * from segments where name = 'Near Saltmere') s`;
  await database.close();
  app = await startApplication(folder);
  studio = await Studio.open({}, app);
}, 120_000);
afterAll(async () => {
  await studio?.close();
  await app?.stop();
  rmSync(folder, { recursive: true, force: true });
});

it("the picker finds the oldest of five thousand images", async () => {
  const path = await studio.newCampaign("Frost");
  await studio.addBlock("Image");
  await studio.click("Image: choose");
  await studio.sees("Show more of 5,004");
  await studio.fill("Find an image", "frost 4321");
  await studio.sees("1 found");
  await studio.click("Take Late frost 4321");
  await studio.saved();
  await studio.until("the image to stand on the sheet", () =>
    studio.inSheet(
      "wide",
      "return page.querySelector('[role=article] img[src*=\"/pictures/\"]')?.complete",
    ),
  );
  // It is asked for, since nobody can know what the new one shows.
  await studio.sees("Say in the alt text what this image shows");
  await studio.click("Write the alt text");
  await studio.press("Frost on the hill");
  await studio.saved();
  const { root } = await studio.storedDocument(path);
  expect(JSON.stringify(root)).toContain("Frost on the hill");
  // Where it is chosen again, what stands here comes first.
  await studio.click("Image: choose");
  await studio.sees("Used here");
});

it("lists of two thousand segments are searched by the server, in rules and for readers", async () => {
  await studio.go("/people");
  await studio.choose("Only one segment", "Walkers 1987");
  await studio.until("the view", async () =>
    (await studio.driver.getCurrentUrl()).includes("segment=many1987"),
  );
  await studio.sees("in this view");
  await studio.go("/people/segments?search=walkers 1987");
  await studio.sees("Walkers 1987");
  const path = await studio.newCampaign("For the walkers");
  await studio.go(`${path}/readers`);
  await studio.choose("Another list or segment", "Walkers 1987");
  await studio.sees("Walkers 1987");
  await studio.run(
    "document.querySelector('input[name=\"segment:many1987\"][value=include]').click()",
  );
  await studio.until("its readers to be counted", async () =>
    /^[1-9]\d*$/.test(await (await studio.find("[data-readers]")).getText()),
  );
});
