/** The time of what is outside and ships with the application, for tests. */
import type { Studio } from "./studio.ts";

/** Moves the time of the sites that ship on by some days, and waits until all has been read. */
export async function moveOn(studio: Studio, days: number): Promise<void> {
  await studio.go("/library/feeds");
  const ahead = async () => Number(/(\d+) days? ahead/.exec(await studio.pageText())?.[1] ?? 0);
  // Other tests may move it too.
  const wanted = (await ahead()) + days;
  while ((await ahead()) < wanted) {
    const before = await ahead();
    await studio.click("Move it on by a day");
    await studio.until("the time to have moved", async () => (await ahead()) > before);
  }
  for (const [kind, name] of [
    ["feeds", "The gardeners’ notebook"],
    ["catalogues", "Seed shop"],
  ] as const) {
    await studio.go(`/library/${kind}`);
    await studio.click(name, "a");
    // Sources are read one after another, behind whoever works here.
    await studio.until(
      `${name} to be read`,
      async () => /· read /.test((await studio.pageText()).replace(/\s+/g, " ")),
      60_000,
    );
  }
}
