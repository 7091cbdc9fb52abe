/**
 * Files from outside are drawn in a process of their own, a few at a time, which is ended when it takes too long:
 * nothing else stops a drawing that was made to take for ever.
 */
import { fork } from "node:child_process";
import { fileURLToPath } from "node:url";
import pLimit from "p-limit";
import { LIMITS } from "#core/limits.ts";
import { type Converted, PictureError, UNREADABLE } from "./convert.ts";

export type Convert = (data: Buffer, shrink: boolean) => Promise<Converted>;

export interface Asked {
  readonly data: Buffer;
  readonly shrink: boolean;
}
/** What the child says: that it has loaded and waits for a file, then what came of that. */
export type Answered =
  | { readonly ready: true }
  | { readonly made: Converted }
  | { readonly refused: string; readonly shrinkable: boolean };

const BUSY = "The server is too busy to draw this image just now. Please try again.";

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
    let timer: NodeJS.Timeout;
    const end = () => {
      clearTimeout(timer);
      child.kill("SIGKILL");
    };
    const refuse = (words: string, shrinkable = false) => {
      end();
      fail(new PictureError(words, shrinkable));
    };
    const allow = (ms: number, late: string) => {
      clearTimeout(timer);
      timer = setTimeout(() => refuse(late), ms);
    };
    // A busy machine may be long in starting the process: that is nothing the image can help.
    allow(LIMITS.pictureStartMs, BUSY);
    child.on("error", () => refuse(UNREADABLE));
    child.on("exit", () => refuse(UNREADABLE));
    child.on("message", (answer: Answered) => {
      if ("ready" in answer) {
        allow(most, "This image takes too long to draw.");
        child.send(asked);
      } else if ("made" in answer) {
        end();
        const { data, master } = answer.made;
        ok({
          ...answer.made,
          data: Buffer.from(data),
          master: master && { ...master, data: Buffer.from(master.data) },
        });
      } else refuse(answer.refused, answer.shrinkable);
    });
  });
}

/** Makes the function that has files drawn. `entry` is the child's file; `most` how long one may be drawn, ms. */
export function convertInChild(entry: URL, most: number = LIMITS.pictureMs): Convert {
  const few = pLimit(LIMITS.picturesAtOnce);
  return (data, shrink) => few(() => once(entry, { data, shrink }, most));
}
