import { createServer, request, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import express from "express";
import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { mostFor, withHeldBody } from "./bodies.ts";

let server: Server;
let port: number;
/** What the handler read, or that it heard of an end. */
const read: (number | string)[] = [];
beforeAll(async () => {
  const app = express();
  app.all(
    "*splat",
    withHeldBody((request, response) => {
      let bytes = 0;
      request.on("data", (chunk: Buffer) => {
        bytes += chunk.length;
      });
      request.on("end", () => {
        read.push(bytes);
        response.send(`${request.method} ${request.originalUrl} ${bytes}`);
      });
      request.on("error", (error) => read.push(error.message));
    }),
  );
  server = createServer(app);
  await new Promise<void>((ok) => server.listen(0, "127.0.0.1", ok));
  port = (server.address() as AddressInfo).port;
});
afterAll(() => new Promise((ok) => server.close(ok)));

/** Sends so many bytes to an address; `chunked` without saying how many they are. */
function post(
  path: string,
  bytes: number,
  chunked = false,
): Promise<{ status: number; text: string }> {
  return new Promise((ok, fail) => {
    const asking = request({
      port,
      path,
      method: "POST",
      headers: chunked ? {} : { "content-length": String(bytes) },
    });
    asking.on("error", fail);
    asking.on("response", (response) => {
      let text = "";
      response.on("data", (part) => {
        text += part;
      });
      response.on("end", () => ok({ status: response.statusCode!, text }));
    });
    const piece = Buffer.alloc(16_384, "a");
    for (let left = bytes; left > 0; left -= piece.length) {
      asking.write(left < piece.length ? piece.subarray(0, left) : piece);
    }
    asking.end();
  });
}

it("has a most for each kind of address, data requests too", () => {
  expect(mostFor("/sign-in")).toBe(LIMITS.publicForm);
  expect(mostFor("/sign-in.data")).toBe(LIMITS.publicForm);
  expect(mostFor("/u/token")).toBe(LIMITS.publicForm);
  expect(mostFor("/sign-inside")).toBe(LIMITS.form);
  expect(mostFor("/campaigns/a/edits")).toBe(LIMITS.editRequest);
  expect(mostFor("/people/held.data")).toBe(LIMITS.pasteForm);
  expect(mostFor("/people/imports/upload")).toBeGreaterThan(LIMITS.importBytes);
  // Whatever is brought as a file has room for the largest that is taken.
  expect(mostFor("/library/pictures")).toBeGreaterThan(LIMITS.pictureUpload);
  expect(mostFor("/library/fonts")).toBeGreaterThan(LIMITS.fontBytes);
  expect(mostFor("/library/files/brought")).toBeGreaterThan(LIMITS.fileBytes);
  expect(mostFor("/library/saved/brought")).toBeGreaterThan(LIMITS.foreignUpload);
  expect(mostFor("/library/saved/s1/places")).toBe(LIMITS.form);
  expect(mostFor("/anything")).toBe(LIMITS.form);
});

it("hands on what is no more than that, as it was sent", async () => {
  expect(await post("/sign-in?a=1", LIMITS.publicForm)).toEqual({
    status: 200,
    text: `POST /sign-in?a=1 ${LIMITS.publicForm}`,
  });
});

it("answers 413 to more, whether it is said before or found while it is read", async () => {
  read.length = 0;
  expect((await post("/sign-in", LIMITS.publicForm + 1)).status).toBe(413);
  expect(read).toEqual([]);
  const found = await post("/sign-in", 2_000_000, true);
  expect(found.status).toBe(413);
  expect(read).toEqual(["More was sent than may be"]);
  // The next is answered as ever.
  expect((await post("/sign-in", 10, true)).status).toBe(200);
});

it("tells the handler of a line that is cut", async () => {
  read.length = 0;
  const asking = request({
    port,
    path: "/x",
    method: "POST",
    headers: { "content-length": "1000" },
  });
  asking.on("error", () => {});
  asking.write("abc");
  await new Promise((ok) => setTimeout(ok, 50));
  asking.destroy();
  for (let i = 0; i < 100 && read.length === 0; i++) await new Promise((ok) => setTimeout(ok, 10));
  expect(read).toEqual(["The line was cut"]);
});
