/** Hostile requests: each kind is sent to every address of the application, with a session and without. */
import { Agent, request as httpRequest } from "node:http";
import { hostileAddress, type Ids, realAddress } from "./addresses.ts";

export interface Sent {
  readonly method?: string;
  readonly path: string;
  readonly headers?: Record<string, string>;
  readonly body?: Buffer | string;
  /** The line is cut after the body, before an answer. */
  readonly cut?: boolean;
}

export interface Kind {
  readonly name: string;
  /** What is sent to an address with ids that exist; null where it makes no sense there. */
  make(address: string, pattern: string): Sent | null;
}

const FORM = { "content-type": "application/x-www-form-urlencoded" };
const JSON_TYPE = { "content-type": "application/json" };
const multipart = (body: string, boundary = "x") => ({
  headers: { "content-type": `multipart/form-data; boundary=${boundary}` },
  body,
});

const DEEP = `${"[".repeat(50_000)}${"]".repeat(50_000)}`;
const DEEP_RULE = `${'{"type":"all","rules":['.repeat(400)}${"]}".repeat(400)}`;
const LONG_RULE = JSON.stringify({
  type: "any",
  rules: Array.from({ length: 400 }, () => ({
    type: "field",
    field: "email",
    op: "is",
    argument: "a",
  })),
});

const query = (name: string, text: string): Kind => ({
  name,
  make: (address) => ({ path: `${address}?${text}` }),
});
const inPath = (name: string, value: string): Kind => ({
  name,
  make: (_, pattern) => {
    const path = hostileAddress(pattern, value);
    return path === null ? null : { path };
  },
});
const posted = (name: string, sent: Omit<Sent, "path">): Kind => ({
  name,
  make: (path) => ({ method: "POST", path, ...sent }),
});
const form = (name: string, body: string): Kind => posted(name, { headers: FORM, body });
const json = (name: string, body: string): Kind => posted(name, { headers: JSON_TYPE, body });

const NAMES = ["__proto__", "constructor", "toString", "hasOwnProperty"];
const every = (values: Record<string, string>) => new URLSearchParams(values).toString();
const EDIT = (node: unknown) =>
  JSON.stringify({
    tab: "tab-hostile",
    base: 0,
    changes: [
      {
        id: "hostile-change",
        does: "do",
        step: "hostile-change",
        of: null,
        edit: { type: "insert", parent: "root", after: null, node },
      },
    ],
  });

export const KINDS: readonly Kind[] = [
  query("NUL in a query", "search=%00&q=%00&next=%00&page=%00&token=%00&rule=%00&reader=%00"),
  query("a broken escape in a query", "search=%&q=%E0%A4%A&rule=%"),
  query("half a surrogate", "search=%ED%A0%80&q=%ED%A0%80&list=%ED%A0%80&segment=%ED%A0%80"),
  query(
    "names of every object",
    every({ sort: "__proto__", list: "constructor", search: "toString" }),
  ),
  query(
    "names of every object in data",
    "__proto__[x]=1&constructor.prototype.x=1&_routes=__proto__",
  ),
  query(
    "numbers out of reach",
    "page=1e400&from=1e400&since=1e400&id=-1&contact=99999999999999999999",
  ),
  query(
    "numbers that are none",
    "page=NaN&from=-0&since=-1&width=1e9&size=0x10&token=x&contact=1.5",
  ),
  query("a deep rule", `rule=${encodeURIComponent(DEEP_RULE.slice(0, 6_000))}`),
  query("a long rule", `rule=${encodeURIComponent(LONG_RULE).slice(0, 12_000)}`),
  query("a long search", `search=${"a".repeat(10_000)}&q=${"%25_".repeat(1_000)}`),
  query("many parameters", Array.from({ length: 2_000 }, (_, i) => `a${i % 7}=${i}`).join("&")),
  query(
    "an address elsewhere",
    "next=//evil.example&next=https%3A%2F%2Fevil.example&to=%0d%0aX:%201",
  ),
  query("markup", every({ search: "<script>alert(1)</script>", q: `"><img src=x onerror=1>` })),
  query(
    "SQL",
    every({ search: "'; drop table contacts; --", list: "' or 1=1 --", sort: "email desc; --" }),
  ),
  inPath("NUL in a path", "%00"),
  inPath("a broken escape in a path", "%"),
  inPath("a walk out of the folder", "..%2f..%2f..%2fetc%2fpasswd"),
  inPath("a long name in a path", "a".repeat(4_000)),
  ...NAMES.map((name) => inPath(`${name} in a path`, name)),
  inPath("a number out of reach in a path", "99999999999999999999"),
  inPath("quotes in a path", "'%22%3Cb%3E"),
  {
    name: "data of a page, of routes that are none",
    make: (path) => ({ path: `${path === "/" ? "/_root" : path}.data?_routes=${NAMES.join(",")}` }),
  },
  ...["PUT", "DELETE", "PATCH", "OPTIONS", "HEAD"].map(
    (method): Kind => ({ name: method, make: (path) => ({ method, path }) }),
  ),
  form("a list of a hundred million", "email[99999999]=1"),
  form(
    "two lists of a hundred million",
    "email[99999999]=1&do[99999999].x=1&password[2147483647]=2",
  ),
  form("a deep name", `a${".b".repeat(20_000)}=1&a${"[0]".repeat(20_000)}=1`),
  form("many fields", "a=1&".repeat(15_000)),
  form("NUL in a form", "email=%00&do=%00&name=%00&what=%00&password=%00"),
  form(
    "names of every object in a form",
    NAMES.map((n) => `do=${n}&what=${n}&${n}=1&f.${n}=1&from.${n}=1`).join("&"),
  ),
  form("an empty form", ""),
  form(
    "fields of the wrong kind",
    "do=add&email[]=1&ids=1e400,-1,x&list=%00&rule=%5B%5B&count=NaN&options=%7B%7D",
  ),
  form("a form of two megabytes", `email=${"a".repeat(2_000_000)}`),
  posted("broken multipart", multipart("--x\r\nnonsense")),
  posted(
    "multipart without an end",
    multipart('--x\r\nContent-Disposition: form-data; name="file"; filename="a.png"\r\n\r\nabc'),
  ),
  posted(
    "multipart of many parts",
    multipart(
      `${'--x\r\nContent-Disposition: form-data; name="a"\r\n\r\n1\r\n'.repeat(5_000)}--x--`,
    ),
  ),
  posted("multipart without a boundary", {
    headers: { "content-type": "multipart/form-data" },
    body: "x",
  }),
  posted(
    "a body that is no picture",
    multipart(
      '--x\r\nContent-Disposition: form-data; name="file"; filename="a.png"\r\nContent-Type: image/png\r\n\r\n\x89PNG nonsense\r\n--x--',
    ),
  ),
  posted("another kind of body", {
    headers: { "content-type": "text/xml" },
    body: "<!DOCTYPE a [<!ENTITY b SYSTEM 'file:///etc/passwd'>]><a>&b;</a>",
  }),
  posted("a body without a kind", { body: "\0\0\0" }),
  json("deep JSON", DEEP),
  json(
    "JSON with NUL",
    JSON.stringify({
      tab: "tab-hostile",
      base: 0,
      node: "\0",
      question: "\0",
      at: "\0",
      changes: [],
    }),
  ),
  json(
    "JSON with numbers out of reach",
    '{"tab":"tab-hostile","base":1e400,"changes":[{"id":"a","edit":1e400}],"at":1e400}',
  ),
  json("JSON that is none", '{"a":'),
  json("JSON of another shape", '[null, 1, "x"]'),
  json("null", "null"),
  json(
    "JSON with names of every object",
    '{"__proto__":{"x":1},"constructor":{"prototype":{"x":1}},"type":"toString","ask":"__proto__"}',
  ),
  json("a rule that is deep", DEEP_RULE),
  json("a rule that is long", LONG_RULE.replaceAll("email", "toString")),
  ...["constructor", "__proto__", "toString"].map((type) =>
    json(`a block of the type ${type}`, EDIT({ id: "hostile", type, props: {}, children: [] })),
  ),
  json(
    "an edit with NUL",
    EDIT({ id: "hostile", type: "text", props: { words: "\0" }, children: [] }),
  ),
  json("JSON of five megabytes", JSON.stringify({ changes: "a".repeat(5_000_000) })),
  {
    name: "a line that is cut",
    make: (path) => ({
      method: "POST",
      path,
      headers: { ...FORM, "content-length": "100000" },
      body: "email=a",
      cut: true,
    }),
  },
];

export interface Answer {
  /** 0 where the line ended without an answer. */
  readonly status: number;
  /** The first part of what came. */
  readonly text: string;
}

const WAIT_MS = 15_000;
/** Of an answer that does not end, as event streams are, so much is read. */
const READ_MS = 150;

/** Sends a request as it is, on a line of its own. */
export function send(base: string, sent: Sent, cookie: string | null): Promise<Answer> {
  const { method = "GET", path, headers = {}, body, cut } = sent;
  const { hostname, port } = new URL(base);
  // A line of its own, which the server does not end as soon as it has answered.
  const agent = new Agent({ keepAlive: true });
  return new Promise((ok) => {
    const asking = httpRequest({
      host: hostname,
      port,
      method,
      path,
      timeout: WAIT_MS,
      agent,
      headers: {
        "sec-fetch-site": "same-origin",
        ...(body !== undefined && { "content-length": String(Buffer.byteLength(body)) }),
        ...(cookie && { cookie: `septima_session=${cookie}` }),
        ...headers,
      },
    });
    let status = 0;
    let text = "";
    const done = () => {
      asking.destroy();
      agent.destroy();
      ok({ status, text });
    };
    asking.on("error", done).on("timeout", done);
    asking.on("response", (response) => {
      status = response.statusCode ?? 0;
      response.on("data", (chunk) => {
        if (text.length < 20_000) text += chunk;
      });
      response.on("end", done).on("error", done).on("close", done);
      if (response.headers["content-type"]?.includes("event-stream")) setTimeout(done, READ_MS);
    });
    if (cut) {
      asking.write(body ?? "");
      setTimeout(done, 30);
    } else asking.end(body);
  });
}

/** A trace, or a path of the machine, in an answer. */
const TELLS = /\n\s+at .*[:(]\d+|node_modules|file:\/\/|\/server\/|\.tsx?:\d/;

export interface Fault {
  readonly kind: string;
  readonly method: string;
  readonly path: string;
  readonly session: boolean;
  readonly status: number;
  readonly what: "failed" | "told" | "silent";
}

/** Sends every kind to every address, a few at a time. `live` says whether the server still stands. */
export async function attack(
  base: string,
  cookie: string,
  patterns: readonly string[],
  ids: Ids,
  live: () => boolean,
): Promise<{ requests: number; faults: Fault[] }> {
  const work = patterns.flatMap((pattern) =>
    KINDS.flatMap((kind) => {
      const sent = kind.make(realAddress(pattern, ids), pattern);
      return sent ? [true, false].map((session) => ({ kind, sent, session })) : [];
    }),
  );
  const faults: Fault[] = [];
  let requests = 0;
  const queue = work.values();
  const line = async () => {
    for (const { kind, sent, session } of queue) {
      if (!live()) return;
      const { status, text } = await send(base, sent, session ? cookie : null);
      requests++;
      const fault = (what: Fault["what"]) =>
        faults.push({
          kind: kind.name,
          method: sent.method ?? "GET",
          path: sent.path.slice(0, 120),
          session,
          status,
          what,
        });
      if (status >= 500) fault("failed");
      else if (status === 0 && !sent.cut) fault("silent");
      if (TELLS.test(text) && !text.includes("<!DOCTYPE html>")) fault("told");
    }
  };
  await Promise.all(Array.from({ length: 6 }, line));
  return { requests, faults };
}
