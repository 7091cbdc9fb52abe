import { afterEach, expect, it, vi } from "vitest";
import { answerTo, ask, NO_LINE, wordsOf } from "./ask.ts";

const answers = (...responses: (Response | Error)[]) => {
  const fetch = vi.fn(async (_path: string, _init?: RequestInit) => {
    const next = responses.shift()!;
    if (next instanceof Error) throw next;
    return next;
  });
  vi.stubGlobal("fetch", fetch);
  return fetch;
};
afterEach(() => vi.unstubAllGlobals());

it("tells an answer, a refusal, an ended session and a cut line apart", async () => {
  answers(
    Response.json({ rows: 3 }),
    Response.json({ message: "Give it a name." }, { status: 400 }),
    new Response("Sign in first.", { status: 401 }),
    new Response("<h1>Bad gateway</h1>", { status: 502 }),
    new Response("<h1>A proxy's page</h1>"),
    new Response(null, { status: 413 }),
    new Error("no line"),
  );
  const kinds = [];
  for (let i = 0; i < 7; i++) kinds.push((await ask("/x")).kind);
  expect(kinds).toEqual(["ok", "refused", "signedOut", "away", "away", "refused", "away"]);
});

it("says in words what came of it", () => {
  expect(wordsOf({ kind: "away" }, "No.")).toBe(NO_LINE);
  expect(wordsOf({ kind: "signedOut" }, "No.")).toContain("Sign in");
  expect(wordsOf({ kind: "refused", body: { message: "Too long." } }, "No.")).toBe("Too long.");
  expect(wordsOf({ kind: "refused", body: { problem: "Gone." } as never }, "No.")).toBe("Gone.");
  expect(wordsOf({ kind: "refused", body: { message: 7 } as never }, "No.")).toBe("No.");
});

it("asks with GET, and with POST where something is sent", async () => {
  const fetch = answers(Response.json(1), Response.json(2), Response.json(3), new Error("away"));
  expect(await answerTo("/x")).toBe(1);
  await ask("/x", { json: { a: 1 } });
  await ask("/x", { body: new Blob(["a,b"]) });
  expect(await answerTo("/x")).toBeNull();
  expect(fetch.mock.calls[0]![1]).not.toHaveProperty("method");
  expect(fetch.mock.calls[1]![1]).toMatchObject({ method: "POST", body: '{"a":1}' });
  const headers = (i: number) => new Headers(fetch.mock.calls[i]![1]!.headers).get("content-type");
  expect([headers(1), headers(2)]).toEqual(["application/json", "application/octet-stream"]);
});
