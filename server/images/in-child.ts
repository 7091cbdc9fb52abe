/**
 * Files from outside are drawn in a process of their own, a few at a time, which is ended when it takes too long:
 * nothing else stops a drawing that was made to take for ever.
 */
import { fork } from "node:child_process";
import { fileURLToPath } from "node:url";
import { LIMITS } from "#core/limits.ts";
import { type Converted, PictureError, UNREADABLE } from "./convert.ts";

export type Convert = (data: Buffer, shrink: boolean) => Promise<Converted>;

export interface Asked {
  readonly data: Buffer;
  readonly shrink: boolean;
}
export type Answered =
  | { readonly made: Converted }
  | { readonly refused: string; readonly shrinkable: boolean };

function once(entry: URL, asked: Asked, most: number): Promise<Converted> {
  const source = entry.pathname.endsWith(".ts");
  const child = fork(fileURLToPath(entry), {
    serialization: "advanced",
    execArgv: source ? ["--import", import.meta.resolve("tsx")] : [],
    stdio: ["ignore", "ignore", "ignore", "ipc"],
    // Nothing of the application's settings is any of its business.
    env: { PATH: process.env.PATH },
  });
  return new Promise((ok, fail) => {
    const timer = setTimeout(() => {
      child.kill("SIGKILL");
      fail(new PictureError("This image takes too long to draw."));
    }, most);
    const end = () => {
      clearTimeout(timer);
      child.kill("SIGKILL");
    };
    child.on("error", () => fail(new PictureError(UNREADABLE)));
    child.on("exit", () => fail(new PictureError(UNREADABLE)));
    child.on("message", (answer: Answered) => {
      end();
      if ("made" in answer) ok({ ...answer.made, data: Buffer.from(answer.made.data) });
      else fail(new PictureError(answer.refused, answer.shrinkable));
    });
    child.send(asked);
  });
}

/** Makes the function that has files drawn. `entry` is the child's file; `most` how long one may take, ms. */
export function convertInChild(entry: URL, most: number = LIMITS.pictureMs): Convert {
  let busy = 0;
  const waiting: (() => void)[] = [];
  return async (data, shrink) => {
    if (busy < LIMITS.picturesAtOnce) busy++;
    else await new Promise<void>((ok) => waiting.push(ok));
    try {
      return await once(entry, { data, shrink }, most);
    } finally {
      const next = waiting.shift();
      if (next) next();
      else busy--;
    }
  };
}
