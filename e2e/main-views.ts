/** The main views with demo data: for looking at accessibility, and for the pictures in docs. */
import type { Studio } from "./studio.ts";

export interface View {
  readonly name: string;
  readonly path: string;
}

/** Further places, which have no picture of their own. */
export const FURTHER_VIEWS: readonly View[] = [
  "/calendar",
  "/people/lists",
  "/people/fields",
  "/people/records/sites",
  "/people/preferences",
  "/people/held",
  "/people/duplicates",
  "/library/derived",
  "/library/derived/new",
  "/library/rolls",
  "/library/feeds",
  "/library/saved",
  "/library/files",
  "/campaigns/new/arrive?as=text",
  "/results",
].map((path) => ({ name: path, path }));

/** Paths of all main views; campaigns are found by their names on the list. */
export async function mainViews(studio: Studio): Promise<View[]> {
  await studio.go("/campaigns");
  const hrefs = await studio.run<[string, string][]>(
    "return [...document.querySelectorAll('main a[href^=\"/campaigns/\"]')].map(a => [a.innerText, a.getAttribute('href')])",
  );
  const campaign = (words: string) =>
    hrefs.find(([name]) => name.includes(words))![1].replace(/\/results$/, "");
  const draft = campaign("at Larkmoor");
  /** Where a link on a page leads. */
  const linkIn = async (page: string, words: string) => {
    await studio.go(page);
    return studio.run<string>(
      "return [...document.querySelectorAll('main a')].find((a) => a.innerText.includes(arguments[0])).getAttribute('href')",
      words,
    );
  };
  const segment = await linkIn("/people/segments", "Bought seeds");
  return [
    { name: "desk", path: "/" },
    { name: "campaigns", path: "/campaigns" },
    { name: "compose", path: draft },
    { name: "readers", path: `${draft}/readers` },
    { name: "proof", path: `${draft}/proof` },
    { name: "schedule", path: `${draft}/schedule` },
    { name: "results", path: `${campaign("Seed list")}/results` },
    { name: "export", path: `${draft}/export` },
    { name: "start", path: "/campaigns/new" },
    { name: "arrived", path: "/campaigns/new/arrive?as=file" },
    { name: "templates", path: "/templates" },
    { name: "people", path: "/people" },
    { name: "person", path: "/people/contacts/1" },
    { name: "segments", path: "/people/segments" },
    { name: "segment", path: segment },
    { name: "import", path: "/people/imports" },
    { name: "library", path: "/library" },
    { name: "image", path: await linkIn("/library", "glasshouse") },
    { name: "template", path: await linkIn("/templates", "Calm newsletter") },
    { name: "themes", path: "/library/themes" },
    { name: "theme", path: "/library/themes/brand" },
    { name: "derived-tag", path: await linkIn("/library/derived", "Who signs") },
    { name: "live", path: campaign("In flower") },
    { name: "feed", path: await linkIn("/library/feeds", "notebook") },
    { name: "catalogue", path: await linkIn("/library/catalogues", "Seed shop") },
    { name: "code-roll", path: await linkIn("/library/rolls", "Seed shop") },
    { name: "outbox", path: "/outbox" },
    { name: "settings", path: "/settings" },
  ];
}
