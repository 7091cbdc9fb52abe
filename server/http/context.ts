/** What the server hands to routes. */
import type { Socket } from "node:net";
import { setTimeout as sleep } from "node:timers/promises";
import { createContext } from "react-router";
import type { Services } from "../services.ts";
import type { Member } from "../store/team.ts";

export const servicesContext = createContext<Services>();
/** The address of the network that a request comes from. */
export const networkContext = createContext<string>();
export const nonceContext = createContext<string>();
/** A connection, as far as it tells what has gone. */
export type Line = Pick<Socket, "bytesWritten">;
/** How often it is looked whether the first bytes are on the line, ms, and how often at most. */
const LOOKED = 2;
const LOOKS = 15;

/** When a page, or its data, has begun to go out: what it does not wait for begins then, and not before it. */
export interface Begun {
  readonly going: Promise<void>;
  go(): void;
  /** Something that the page waits for is done first; where it fails, the rest goes on. */
  first(work: () => Promise<void>): void;
}
/** For an answer on a line: what is computed for later would keep the bytes that are there back. */
export function begun(line: Line | null = null): Begun {
  let go = () => {};
  const firsts: (() => Promise<void>)[] = [];
  const before = line?.bytesWritten;
  const onTheLine = async () => {
    for (let i = 0; line && i < LOOKS && line.bytesWritten === before; i++) await sleep(LOOKED);
  };
  const going = new Promise<void>((ok) => {
    go = ok;
  })
    .then(onTheLine)
    .then(async () => void (await Promise.allSettled(firsts.map(async (work) => work()))));
  return { going, go, first: (work) => void firsts.push(work) };
}
/** Where nothing draws pages, nothing is waited for. */
export const begunContext = createContext<Begun>({
  going: Promise.resolve(),
  go() {},
  first() {},
});
/** The session of the person signed in. */
export const sessionContext = createContext<string>();
/** The person signed in; set by the guard before any guarded route runs. */
export const memberContext = createContext<Member>();
