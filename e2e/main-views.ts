/** The main views with demo data: for looking at accessibility, and for the pictures in docs. */
import type { Studio } from "./studio.ts";

export interface View {
  readonly name: string;
  readonly path: string;
}

/** Further places of people, which have no picture of their own. */
export const PEOPLE_VIEWS: readonly View[] = [
  "lists",
  "fields",
  "records/sites",
  "preferences",
  "held",
  "duplicates",
].map((place) => ({ name: place, path: `/people/${place}` }));

/** Paths of all main views; campaigns are found by their names on the list. */
export async function mainViews(studio: Studio): Promise<View[]> {
  await studio.go("/campaigns");
  const hrefs = await studio.run<[string, string][]>(
    "return [...document.querySelectorAll('main a[href^=\"/campaigns/\"]')].map(a => [a.innerText, a.getAttribute('href')])",
  );
  const campaign = (words: string) =>
    hrefs.find(([name]) => name.includes(words))![1].replace(/\/results$/, "");
  const draft = campaign("at Larkmoor");
  await studio.go("/people/segments");
  const segment = await studio.run<string>(
    "return [...document.querySelectorAll('main a')].find((a) => a.innerText.includes('Bought seeds')).getAttribute('href')",
  );
  return [
    { name: "desk", path: "/" },
    { name: "campaigns", path: "/campaigns" },
    { name: "new-campaign", path: "/campaigns/new" },
    { name: "compose", path: draft },
    { name: "readers", path: `${draft}/readers` },
    { name: "proof", path: `${draft}/proof` },
    { name: "schedule", path: `${campaign("notebook")}/schedule` },
    { name: "results", path: `${campaign("Seed list")}/results` },
    { name: "templates", path: "/templates" },
    { name: "people", path: "/people" },
    { name: "person", path: "/people/contacts/1" },
    { name: "segments", path: "/people/segments" },
    { name: "segment", path: segment },
    { name: "import", path: "/people/imports" },
    { name: "library", path: "/library" },
    { name: "all-results", path: "/results" },
    { name: "outbox", path: "/outbox" },
    { name: "settings", path: "/settings" },
  ];
}
