import pino from "pino";
import { data, type ServerBuild } from "react-router";
import { expect, it } from "vitest";
import { DatabaseError } from "../db/database.ts";
import { lastAnswer, withReferences } from "./failures.ts";

const lines: { reference?: string; err?: { message: string } }[] = [];
const log = pino({}, { write: (line: string) => void lines.push(JSON.parse(line)) });

/** A page whose loader throws. */
const throwing = (error: unknown, aborted = false) => {
  const loader = async () => {
    throw error;
  };
  const build = { routes: { page: { id: "page", module: { loader, default: () => null } } } };
  const { loader: guarded } = withReferences(build as unknown as ServerBuild, log).routes.page!
    .module as { loader: (args: object) => Promise<unknown> };
  lines.length = 0;
  const request = new Request("http://127.0.0.1/", {
    signal: aborted ? AbortSignal.abort() : null,
  });
  // biome-ignore lint/suspicious/noExplicitAny: whatever is thrown
  return guarded({ request }).catch((thrown) => thrown) as Promise<any>;
};

it("logs what went wrong under a reference, and shows that alone", async () => {
  const answer = await throwing(new Error("secret path /srv/x"));
  expect(answer.init.status).toBe(500);
  expect(Object.keys(answer.data)).toEqual(["reference"]);
  expect(lines).toHaveLength(1);
  expect(lines[0]!.reference).toBe(answer.data.reference);
  expect(lines[0]!.err!.message).toContain("secret path");
});

it("answers 400 to values that no database could keep", async () => {
  const answer = await throwing(new DatabaseError("invalid byte sequence", "22021", undefined));
  expect(answer.init.status).toBe(400);
  expect(lines).toEqual([]);
  const ours = await throwing(new DatabaseError("no such column", "42703", undefined));
  expect(ours.init.status).toBe(500);
});

it("lets answers through that were meant, and is silent where nobody waits", async () => {
  const gone = data("This campaign is gone.", { status: 404 });
  expect(await throwing(gone)).toBe(gone);
  const response = new Response("Sign in first.", { status: 401 });
  expect(await throwing(response)).toBe(response);
  expect((await throwing(new Error("cut"), true)).init.status).toBe(400);
  expect(lines).toEqual([]);
});

it("has a last answer for what no page caught, without a trace", () => {
  const said: { status?: number; text?: string } = {};
  const response = {
    headersSent: false,
    status(code: number) {
      said.status = code;
      return response;
    },
    type: () => response,
    send(text: string) {
      said.text = text;
    },
  };
  const answer = (error: Error) => {
    lines.length = 0;
    lastAnswer(log)(error, {} as never, response as never, () => {});
    return said;
  };
  expect(answer(new URIError("malformed"))).toMatchObject({ status: 400 });
  expect(lines).toEqual([]);
  expect(answer(new Error("secret"))).toMatchObject({ status: 500 });
  expect(said.text).toContain(lines[0]!.reference);
  expect(said.text).not.toContain("secret");
});
