/** Themes of a house: proposed from what there is, kept, used, taken along. */
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { createDocument } from "#core/blocks/index.ts";
import { readFile } from "#core/files/index.ts";
import { faintPairs } from "#core/theme/contrasts.ts";
import { apart, labOf } from "#core/theme/oklab.ts";
import { STANDARD_THEME, type Theme } from "#core/theme/theme.ts";
import { fromTokens, toTokens } from "#core/theme/tokens.ts";
import { inTheme } from "#server/campaigns/looks.ts";
import { getSettings } from "#server/store/settings.ts";
import type { Member } from "#server/store/team.ts";
import { listThemes } from "#server/store/themes.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { lookOfPage } from "#server/theming/colours.ts";
import { aDesigner, answered, routeArgs } from "../testing/route.ts";
import { loader as themeFile } from "./api.theme-file.ts";
import { action as changing, loader as page } from "./library.theme.tsx";
import { action, loader } from "./library.themes.tsx";

let services: TestServices;
let member: Member;
beforeAll(async () => {
  services = await startTestServices();
  member = await aDesigner(services);
});
afterAll(() => services.close());

function sent(fields: Record<string, string | File>) {
  const body = new FormData();
  for (const [name, value] of Object.entries(fields)) body.set(name, value);
  return action(routeArgs(services, member, { body }));
}
type Answer = { result: { error?: Record<string, string[]> } };
const errorsOf = (answer: unknown) =>
  ("result" in (answer as object) ? (answer as Answer) : answered<Answer>(answer)).result.error;
const jsonFile = (text: string) => new File([text], "a.json", { type: "application/json" });

it("proposes one from a logo, in its colour and easy to read", async () => {
  const logo = await sharp({
    create: { width: 60, height: 60, channels: 4, background: "#00000000" },
  })
    .composite([
      {
        input: await sharp({
          create: { width: 30, height: 30, channels: 3, background: "#b3261e" },
        })
          .png()
          .toBuffer(),
      },
    ])
    .png()
    .toBuffer();
  await sent({ do: "image", image: new File([new Uint8Array(logo)], "our_logo.png") });
  const [{ theme } = { theme: STANDARD_THEME as Theme }] = await listThemes(services.database.sql);
  expect(theme.name).toBe("our logo");
  expect(apart(labOf(theme.colours.accent), labOf("#b3261e"))).toBeLessThan(0.05);
  expect(faintPairs(theme)).toEqual([]);
});

it("reads the look of a page: its colours by how often they are named, its font", () => {
  const html =
    '<title>Larkmoor | Garden</title><meta name="theme-color" content="#1f3d2e"><p style="color:#222">x</p>';
  const css =
    "body{font-family:Verdana,sans-serif;color:#222222} a{color:rgb(180 40 60)} .x{color:rgba(0,0,0,0.1)}";
  const { name, colours, font } = lookOfPage(html, css);
  expect([name, font]).toEqual(["Larkmoor", "wideSans"]);
  expect(Object.fromEntries(colours.map(({ colour, weight }) => [colour, weight]))).toEqual({
    ...{ "#1f3d2e": 51, "#222222": 2, "#b4283c": 1 },
  });
});

it("takes in a theme, or design tokens, and says what is wrong with anything else", async () => {
  const { sql } = services.database;
  const theme: Theme = { ...STANDARD_THEME, name: "Moss", corner: 11 };
  expect(errorsOf(await sent({ do: "file", file: jsonFile(toTokens(theme)) }))).toBeUndefined();
  expect((await listThemes(sql)).map((one) => one.theme)).toContainEqual(theme);
  expect(errorsOf(await sent({ do: "file", file: jsonFile("{}") }))?.file).toEqual([
    "There are no colours among these tokens.",
  ]);
  expect(errorsOf(await sent({ do: "image", image: jsonFile("{}") }))?.image?.[0]).toContain(
    "no image",
  );
  expect(errorsOf(await sent({ do: "page", page: "http://127.0.0.1/x" }))?.page?.[0]).toBeTruthy();
  expect(errorsOf(await sent({ do: "page", page: "nothing of colours" }))?.page).toEqual([
    "No colours are named there.",
  ]);
});

it("uses one for new emails, and keeps the one that gives way", async () => {
  const { sql } = services.database;
  const before = (await getSettings(sql)).theme;
  const { themes } = await loader(routeArgs(services, member, {}));
  const moss = themes.find(({ theme }) => theme.name === "Moss")!;
  await sent({ do: "use", theme: moss.key });
  expect((await getSettings(sql)).theme.name).toBe("Moss");
  expect((await listThemes(sql)).map(({ theme }) => theme)).toContainEqual(before);
  const again = await loader(routeArgs(services, member, {}));
  // What is the theme of new emails is told once.
  expect(again.themes.filter(({ theme }) => theme.name === "Moss")).toHaveLength(1);
});

it("gives each as a file that is read back", async () => {
  const at = async (kind: string) => {
    const answer = await themeFile(routeArgs(services, member, {}, { theme: "brand", kind }));
    return { status: answer.status, text: await answer.text() };
  };
  const { theme } = await getSettings(services.database.sql);
  expect(readFile((await at("theme.json")).text)).toEqual({ kind: "theme", theme, fonts: [] });
  expect(fromTokens((await at("tokens.json")).text)).toMatchObject({ theme });
  expect((await at("other.json")).status).toBe(404);
});

describe("the page of a theme", () => {
  const change = (key: string, theme: unknown, seen: unknown, name = "Named") => {
    const body = new FormData();
    for (const [field, value] of Object.entries({ theme, seen })) {
      body.set(field, typeof value === "string" ? value : JSON.stringify(value));
    }
    body.set("name", name);
    return changing(routeArgs(services, member, { body }, { theme: key }) as never);
  };
  const shown = async (key: string) =>
    (await page(routeArgs(services, member, {}, { theme: key }) as never)).theme;
  const refused = (answer: unknown) => answered<{ problem: string | null }>(answer);
  const red = (theme: Theme): Theme => ({
    ...theme,
    colours: { ...theme.colours, accent: "#aa0000", button: "#884400" },
    type: { ...theme.type, body: 18 },
  });

  it("keeps what is changed of that of new emails, and of any other", async () => {
    const before = await shown("brand");
    expect(await change("brand", red(before), before)).toMatchObject({ problem: null });
    expect((await getSettings(services.database.sql)).theme).toEqual({
      ...red(before),
      name: "Named",
    });
    const [kept] = await listThemes(services.database.sql);
    const { id, theme } = kept!;
    expect(await change(id, { ...red(theme), dark: null }, theme, "Ours")).toMatchObject({
      problem: null,
    });
    expect(await shown(id)).toMatchObject({ name: "Ours", dark: null, type: { body: 18 } });
  });
  it("says how wide new emails are, those from templates too", async () => {
    const before = await shown("brand");
    await change("brand", { ...before, width: 640, spacing: [0, 6, 12] }, before, before.name);
    const theme = await shown("brand");
    expect(theme).toMatchObject({ width: 640, spacing: [0, 6, 12] });
    expect(inTheme(createDocument([]), theme).root.props.width).toBe(640);
    expect(inTheme(createDocument([]), STANDARD_THEME).root.props.width).toBe(600);
    const back = { ...before, name: before.name };
    expect(await change("brand", back, theme, before.name)).toMatchObject({ problem: null });
  });
  it("tells the second of two people, and loses nothing of the first", async () => {
    const seen = await shown("brand");
    await change("brand", { ...seen, corner: 9 }, seen, seen.name);
    const second = refused(await change("brand", { ...seen, corner: 1 }, seen, seen.name));
    expect([second.status, second.problem]).toEqual([
      409,
      expect.stringContaining("in the meantime"),
    ]);
    expect((await shown("brand")).corner).toBe(9);
  });
  it("makes one of the house's own of one that ships, which stays as it is", async () => {
    const count = (await listThemes(services.database.sql)).length;
    const ships = await shown("plum");
    const led = (await change("plum", red(ships), ships, "Plum, warm")) as Response;
    const id = led.headers.get("location")!.split("/").at(-1)!;
    expect(await shown(id)).toEqual({ ...red(ships), name: "Plum, warm" });
    expect(await listThemes(services.database.sql)).toHaveLength(count + 1);
    expect(await shown("plum")).toEqual(ships);
  });
  it("refuses what is no theme, with a word, and one that is gone", async () => {
    const before = await shown("brand");
    const colours = { ...before.colours, accent: "red;}" };
    for (const bad of ["{", "[]", "null", { ...before, colours }, { ...before, corner: 99 }]) {
      const answer = refused(await change("brand", bad, before));
      expect([answer.status, typeof answer.problem]).toEqual([400, "string"]);
    }
    expect(refused(await change("brand", before, before, "  ")).problem).toBe("Give it a name.");
    expect(await shown("brand")).toEqual(before);
    expect(refused(await change("gone", before, before)).status).toBe(409);
    await expect(shown("gone")).rejects.toMatchObject({ init: { status: 404 } });
  });
});
