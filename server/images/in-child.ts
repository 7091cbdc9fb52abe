/**
 * Files from outside are drawn in processes of their own, a few at a time. One that takes too long is ended: nothing
 * else stops a drawing that was made to take for ever.
 */
import { type ChildProcess, fork } from "node:child_process";
import { fileURLToPath } from "node:url";
import pLimit from "p-limit";
import { LIMITS } from "#core/limits.ts";
import { type Converted, PictureError, UNREADABLE } from "./convert.ts";

export type Convert = (data: Buffer, shrink: boolean) => Promise<Converted>;

export interface Asked {
  readonly data: Buffer;
  readonly shrink: boolean;
}
/** What the child says: that it has loaded and waits for files, then what came of each. */
export type Answered =
  | { readonly ready: true }
  | { readonly made: Converted }
  | { readonly refused: string; readonly shrinkable: boolean };

const BUSY = "The server is too busy to draw this image just now. Please try again.";
const LATE = "This image takes too long to draw.";

function start(entry: URL): ChildProcess {
  const source = entry.pathname.endsWith(".ts");
  return fork(fileURLToPath(entry), {
    serialization: "advanced",
    execArgv: source ? ["--import", import.meta.resolve("tsx")] : [],
    stdio: ["ignore", "ignore", "ignore", "ipc"],
    // Nothing of the application's settings is any of its business.
    env: { PATH: process.env.PATH },
  });
}

/** The child's next answer. Throws a PictureError with `late` after `most` ms, or when the child has ended. */
function answerOf(child: ChildProcess, most: number, late: string): Promise<Answered> {
  return new Promise((ok, fail) => {
    const settle = (then: () => void) => {
      clearTimeout(timer);
      child.off("message", answered).off("exit", ended).off("error", ended);
      then();
    };
    const answered = (answer: unknown) => settle(() => ok(answer as Answered));
    const ended = () => settle(() => fail(new PictureError(UNREADABLE)));
    const timer = setTimeout(() => settle(() => fail(new PictureError(late))), most);
    child.on("message", answered).on("exit", ended).on("error", ended);
    if (!child.connected) ended();
  });
}

/** One process: it loads once, and draws what it is given, one after another. */
class Drawer {
  readonly #child: ChildProcess;
  readonly #ready: Promise<Answered>;
  #drawn = 0;
  #rest: NodeJS.Timeout | undefined;

  constructor(
    entry: URL,
    readonly gone: () => void,
  ) {
    this.#child = start(entry);
    // A busy machine may be long in starting the process: that is nothing the image can help.
    this.#ready = answerOf(this.#child, LIMITS.pictureStartMs, BUSY);
    this.#child.once("exit", gone).on("error", gone);
  }

  async draw(asked: Asked, most: number): Promise<Converted> {
    clearTimeout(this.#rest);
    this.#child.ref();
    this.#child.channel?.ref();
    try {
      await this.#ready;
      const answer = answerOf(this.#child, most, LATE);
      this.#child.send(asked, () => {});
      const said = await answer;
      if ("refused" in said) throw new PictureError(said.refused, said.shrinkable);
      if (!("made" in said)) throw new PictureError(UNREADABLE);
      this.#drawn += 1;
      const { data, master } = said.made;
      return {
        ...said.made,
        data: Buffer.from(data),
        master: master && { ...master, data: Buffer.from(master.data) },
      };
    } catch (error) {
      // What has met a file that is no image, or one made to harm, draws nothing more.
      this.end();
      throw error;
    }
  }

  /** Whether it may draw another. If so it waits for one a while, and keeps nobody from ending. */
  restsFor(ms: number): boolean {
    if (!this.#child.connected || this.#drawn >= LIMITS.picturesPerProcess) return false;
    this.#rest = setTimeout(() => this.end(), ms).unref();
    this.#child.unref();
    this.#child.channel?.unref();
    return true;
  }

  end(): void {
    this.gone();
    this.#child.kill("SIGKILL");
  }
}

/** Makes the function that has files drawn. `entry` is the child's file; `most` how long one may be drawn, ms. */
export function convertInChild(entry: URL, most: number = LIMITS.pictureMs): Convert {
  const few = pLimit(LIMITS.picturesAtOnce);
  const resting = new Set<Drawer>();
  const drawn = async (asked: Asked): Promise<Converted> => {
    let [drawer] = resting;
    if (drawer) resting.delete(drawer);
    else {
      const fresh: Drawer = new Drawer(entry, () => resting.delete(fresh));
      drawer = fresh;
    }
    const made = await drawer.draw(asked, most);
    if (drawer.restsFor(LIMITS.pictureRestMs)) resting.add(drawer);
    else drawer.end();
    return made;
  };
  return (data, shrink) => few(() => drawn({ data, shrink }));
}
