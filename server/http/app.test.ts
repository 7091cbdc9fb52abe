import { writeFile } from "node:fs/promises";
import type { Server } from "node:http";
import type { AddressInfo } from "node:net";
import { join } from "node:path";
import express from "express";
import sharp from "sharp";
import { afterAll, beforeAll, expect, it } from "vitest";
import { nameInAddress, pictureAddress } from "#core/picture-id.ts";
import { ownFont } from "#core/theme/theme.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { createApp } from "./app.ts";
import { messagePolicy, pagePolicy, sheetPolicy } from "./policies.ts";
import { refuseForged } from "./security.ts";

let services: TestServices;
let server: Server;
let base: string;
const OWN = "http://127.0.0.1:4999";
beforeAll(async () => {
  services = await startTestServices();
  const app = createApp(services, {
    build: async () => {
      throw new Error("No pages in this test");
    },
    client: null,
  });
  const guarded = express();
  guarded.use("/guarded", refuseForged(OWN), (_request, response) => void response.send("in"));
  guarded.use(app);
  await new Promise<void>((ok) => {
    server = guarded.listen(0, "127.0.0.1", () => ok());
  });
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(async () => {
  server.close();
  await services.close();
});

const post = (headers: Record<string, string>) =>
  fetch(`${base}/guarded`, { method: "POST", headers });

it("refuses requests that other sites forge", async () => {
  expect((await post({ "sec-fetch-site": "same-origin" })).status).toBe(200);
  expect((await post({ origin: OWN })).status).toBe(200);
  const forged: Record<string, string>[] = [
    { "sec-fetch-site": "cross-site", origin: OWN },
    { "sec-fetch-site": "same-site" },
    { origin: "https://elsewhere.example" },
    { origin: "null" },
    {},
  ];
  for (const headers of forged) expect((await post(headers)).status).toBe(403);
  expect((await fetch(`${base}/guarded`)).status).toBe(200);
});

it("serves pictures by their content's name, and nothing else of the folder", async () => {
  const drawn = sharp({ create: { width: 2, height: 2, channels: 3, background: "#1f3d2e" } });
  const { id, file } = await services.pictures.add(await drawn.png().toBuffer(), "leaf");
  await writeFile(join(services.pictures.folder, "secret"), "no");
  // As emails name it now, and as they did.
  for (const name of [nameInAddress(file), file]) {
    expect((await fetch(`${base}/pictures/${name}`)).status, name).toBe(200);
  }
  const answer = await fetch(`${base}/pictures/${file}`);
  expect(answer.status).toBe(200);
  expect(answer.headers.get("cache-control")).toContain("immutable");
  expect(answer.headers.get("x-content-type-options")).toBe("nosniff");
  expect(answer.headers.get("x-powered-by")).toBeNull();
  for (const path of [
    "secret",
    "..%2fkey",
    "%2e%2e%2fkey",
    `${"c".repeat(64)}.png`,
    `${id}.svg`,
    id.slice(0, 22),
  ]) {
    expect((await fetch(`${base}/pictures/${path}`)).status).toBe(404);
  }
});

it("reads no address with a character in it that cannot be kept, wherever it stands", async () => {
  for (const path of [
    "library?search=x%00",
    "library?label=%00",
    "library/image/%00",
    "o/%00.gif",
  ]) {
    const answer = await fetch(`${base}/${path}`);
    expect([path, answer.status]).toEqual([path, 400]);
    expect(await answer.text()).toBe("This address could not be read.");
  }
});

it("gives an image at the width an email asks for, however many ask for it at once", async () => {
  const drawn = sharp({ create: { width: 900, height: 300, channels: 3, background: "#b5462f" } });
  const { file } = await services.pictures.add(await drawn.png().toBuffer(), "band");
  const asked = await Promise.all(
    Array.from({ length: 12 }, () => fetch(pictureAddress(base, { file }, 560))),
  );
  for (const answer of asked) {
    expect(answer.status).toBe(200);
    const { width, height, format } = await sharp(await answer.arrayBuffer()).metadata();
    expect({ width, height, format }).toEqual({ width: 560, height: 187, format: "png" });
  }
  // Widths that no email asks for are not made: else anybody could fill the disk.
  for (const width of ["559", "0", "99999", "1e3", "-80"]) {
    const answer = await fetch(pictureAddress(base, { file }).replace(".png", `-${width}.png`));
    const got = answer.ok ? (await sharp(await answer.arrayBuffer()).metadata()).width : 404;
    expect([width, got]).not.toEqual([width, Number(width)]);
  }
});

it("gives the house's fonts to mail programs elsewhere, and nothing else of their folder", async () => {
  const id = await services.fonts.add(Buffer.from("wOF2 as far as a server knows"), "woff2");
  const answer = await fetch(`${base}${ownFont(id)}`);
  expect(answer.status).toBe(200);
  expect(answer.headers.get("content-type")).toBe("font/woff2");
  expect(answer.headers.get("access-control-allow-origin")).toBe("*");
  expect(answer.headers.get("cache-control")).toContain("immutable");
  expect(await answer.text()).toBe("wOF2 as far as a server knows");
  for (const path of ["..%2fkey", `${id}.woff2.part`, `${"c".repeat(64)}.woff2`, id]) {
    expect((await fetch(`${base}/fonts/${path}`)).status).toBe(404);
  }
});

it("lets only the page's own scripts run, and none in sheets and messages", () => {
  const page = pagePolicy("abc");
  expect(page).toContain("script-src 'self' 'nonce-abc'");
  expect(page).not.toMatch(/script-src[^;]*unsafe/);
  expect(page).toContain("frame-ancestors 'none'");
  for (const policy of [sheetPolicy, messagePolicy]) {
    expect(policy).toContain("default-src 'none'");
    expect(policy).not.toContain("script-src");
    expect(policy).toContain("frame-ancestors 'self'");
  }
  expect(messagePolicy).toMatch(/sandbox allow-popups allow-popups-to-escape-sandbox/);
});
