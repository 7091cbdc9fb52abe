/** Reading from elsewhere: a server that does what it likes. */
import { createServer, type RequestListener, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { gzipSync } from "node:zlib";
import fc from "fast-check";
import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { isPublic, isRefusedHost } from "./addresses.ts";
import { createFetcher, FetchError } from "./fetcher.ts";

const asked: { path: string; method: string; headers: Record<string, unknown> }[] = [];
const answers: Record<string, RequestListener> = {
  "/plain": (_, response) => response.setHeader("etag", '"1"').end("Hello"),
  "/packed": (_, response) =>
    response.setHeader("content-encoding", "gzip").end(gzipSync("Hello, packed")),
  "/bomb": (_, response) =>
    response.setHeader("content-encoding", "gzip").end(gzipSync(Buffer.alloc(40_000_000))),
  "/not-packed": (_, response) => response.setHeader("content-encoding", "gzip").end("Hello"),
  "/endless": (_, response) => {
    const more = () => {
      while (response.write(Buffer.alloc(100_000)));
      response.once("drain", more);
    };
    more();
  },
  "/cut": (_, response) => {
    response.writeHead(200, { "content-length": "1000" });
    response.write("Hel");
    setTimeout(() => response.destroy(), 20);
  },
  "/gone": (_, response) => response.writeHead(410).end(),
  "/secret": (_, response) => response.writeHead(403).end(),
  "/broken": (_, response) => response.writeHead(500).end(),
  "/on": (_, response) => response.writeHead(302, { location: "plain" }).end(),
  "/round": (_, response) => response.writeHead(302, { location: "/round" }).end(),
  "/to-file": (_, response) => response.writeHead(302, { location: "file:///etc/passwd" }).end(),
  "/to-name": (_, response) => response.writeHead(302, { location: "http://a:b@x.example/" }).end(),
  "/drip": (_, response) => {
    const drip = setInterval(() => response.write("."), 30);
    response.once("close", () => clearInterval(drip));
  },
  "/get-alone": (request, response) =>
    request.method === "GET" ? response.end("Hello") : response.writeHead(405).end(),
  "/unchanged": (_, response) => response.writeHead(304).end(),
};
let server: Server;
let base: string;
beforeAll(async () => {
  server = createServer((request, response) => {
    asked.push({ path: request.url!, method: request.method!, headers: request.headers });
    (answers[request.url!] ?? ((_, r) => r.writeHead(404).end()))(request, response);
  });
  await new Promise<void>((ok) => server.listen(0, "127.0.0.1", ok));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});

const here = createFetcher({ privateToo: true });
const why = (path: string) =>
  here(`${base}${path}`).then(
    () => "it came",
    (error) => (error instanceof FetchError ? error.message : Promise.reject(error)),
  );

it("reads what is there, packed or not, and says where it came from in the end", async () => {
  const plain = await here(`${base}/on`);
  expect(plain).toMatchObject({ address: `${base}/plain`, etag: '"1"', unchanged: false });
  expect(plain.bytes.toString()).toBe("Hello");
  expect((await here(`${base}/packed`)).bytes.toString()).toBe("Hello, packed");
});

it("asks whether anything has changed", async () => {
  const before = await here(`${base}/unchanged`, {
    etag: '"1"',
    lastModified: "Tue, 03 Mar 2026 10:00:00 GMT",
  });
  expect(before).toMatchObject({ unchanged: true });
  expect(asked.at(-1)!.headers).toMatchObject({
    "if-none-match": '"1"',
    "if-modified-since": "Tue, 03 Mar 2026 10:00:00 GMT",
  });
});

it("asks only whether something is there: by HEAD, by GET where that is taken amiss, and reads nothing", async () => {
  const only = "whether";
  const methods = async (path: string) => {
    asked.length = 0;
    const found = await here(`${base}${path}`, { only }).catch((error: unknown) => error);
    return [asked.map(({ method }) => method), found] as const;
  };
  expect(await methods("/plain")).toMatchObject([
    ["HEAD"],
    { redirects: 0, bytes: Buffer.alloc(0) },
  ]);
  expect(await methods("/on")).toMatchObject([["HEAD", "HEAD"], { redirects: 1 }]);
  expect(await methods("/get-alone")).toMatchObject([["HEAD", "GET"], { redirects: 0 }]);
  const [twice, nothing] = await methods("/nowhere");
  expect([twice, (nothing as FetchError).gone]).toEqual([["HEAD", "GET"], true]);
  expect(((await methods("/secret"))[1] as FetchError).gone).toBe(false);
  expect((await methods("/round"))[0]).toHaveLength(LIMITS.fetchRedirects + 1);
  const outside = createFetcher();
  await expect(outside(`${base}/plain`, { only })).rejects.toThrow(FetchError);
});

it.each([
  ["/bomb", "It is larger than 5 MB."],
  ["/endless", "It is larger than 5 MB."],
  ["/not-packed", "What the server sends cannot be unpacked."],
  ["/cut", "The server does not answer, or breaks off."],
  ["/nowhere", "There is nothing at this address (404)."],
  ["/gone", "There is nothing at this address (410)."],
  ["/secret", "The server lets nobody read it (403)."],
  ["/broken", "The server answers with 500."],
  ["/round", `It leads on more than ${LIMITS.fetchRedirects} times.`],
  ["/to-file", "An address begins with http:// or https://."],
  ["/to-name", "An address with a name or a password in it is not fetched."],
])("says of %s in words what is wrong", async (path, words) => {
  expect(await why(path)).toBe(words);
});

it("waits no longer than it may for a server that drips", async () => {
  const hasty = createFetcher({ privateToo: true, timeMs: 200 });
  await expect(hasty(`${base}/drip`)).rejects.toThrow("It took longer than 0.2 seconds.");
});

it("gives up when it is told to", async () => {
  const stop = new AbortController();
  const waiting = here(`${base}/endless`, { signal: stop.signal, most: Number.POSITIVE_INFINITY });
  stop.abort(new Error("the end"));
  await expect(waiting).rejects.toThrow("the end");
});

it("asks no machine of a private network, however it is written", async () => {
  const out = createFetcher();
  const { port } = server.address() as AddressInfo;
  const before = asked.length;
  for (const host of [
    "127.0.0.1",
    "localhost",
    "[::1]",
    "[::ffff:127.0.0.1]",
    "0x7f.1",
    "2130706433",
    "0",
    "0177.0.0.1",
    "[::]",
  ]) {
    await expect(out(`http://${host}:${port}/plain`), host).rejects.toThrow("private network");
  }
  expect(asked).toHaveLength(before);
});

it("knows private addresses from public ones", () => {
  const privateOnes = [
    "10.0.0.1",
    "172.16.5.5",
    "192.168.1.1",
    "169.254.169.254",
    "100.64.0.1",
    "198.18.0.1",
    "224.0.0.1",
    "255.255.255.255",
    "fc00::1",
    "fe80::1",
    "::ffff:10.0.0.1",
    "64:ff9b::a00:1",
    "2002:0a00:0001::",
    "2001:db8::1",
    "nonsense",
  ];
  for (const address of privateOnes) expect(isPublic(address), address).toBe(false);
  for (const address of ["93.184.216.34", "2606:2800:220:1:248:1893:25c8:1946"]) {
    expect(isPublic(address), address).toBe(true);
  }
  fc.assert(
    fc.property(fc.ipV4(), (address) => {
      const [a, b] = address.split(".").map(Number) as [number, number];
      const isPrivate = a === 10 || a === 127 || a === 0 || a >= 224 || (a === 192 && b === 168);
      if (isPrivate) expect(isRefusedHost(new URL(`http://${address}/`).hostname)).toBe(true);
    }),
  );
});

it("asks a stand-in in place of the network", async () => {
  const standIn = (address: URL) =>
    address.pathname === "/feed"
      ? { contentType: "text/plain", body: "In-house", etag: '"7"' }
      : null;
  const fetcher = createFetcher({ standIns: new Map([["garden.example", standIn]]) });
  const found = await fetcher("https://garden.example/feed");
  expect(found.bytes.toString()).toBe("In-house");
  expect(await fetcher("https://garden.example/feed", { etag: '"7"' })).toMatchObject({
    unchanged: true,
  });
  await expect(fetcher("https://garden.example/other")).rejects.toThrow("404");
});
