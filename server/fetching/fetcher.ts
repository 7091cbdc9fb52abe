/**
 * The one way to read something from elsewhere. Whoever names the address is not trusted: private addresses are
 * refused at every redirect and every lookup of a name; size, time and redirects are limited.
 */
import { type IncomingMessage, request as requestHttp } from "node:http";
import { request as requestHttps } from "node:https";
import type { Readable } from "node:stream";
import { createBrotliDecompress, createGunzip, createInflate } from "node:zlib";
import { LIMITS } from "#core/limits.ts";
import { isRefusedHost, publicLookup, refusal } from "./addresses.ts";
import { FetchError } from "./error.ts";

export { FetchError } from "./error.ts";

export interface FetchOptions {
  /** What was told the last time: where nothing has changed, nothing is sent (RFC 9110, 13.1). */
  readonly etag?: string | null;
  readonly lastModified?: string | null;
  readonly accept?: string;
  /** At most so many bytes, unpacked. */
  readonly most?: number;
  readonly signal?: AbortSignal;
  /**
   * Only whether something is there: asked by HEAD, and by GET where a server takes that amiss (RFC 9110, 9.3.2).
   * Nothing is read.
   */
  readonly only?: "whether";
  /** Sends this, instead of asking for something. Where it leads on, nothing is sent a second time. */
  readonly post?: { readonly body: string; readonly headers: Readonly<Record<string, string>> };
}

export interface Fetched {
  /** Where it came from in the end. */
  readonly address: string;
  /** How often it led on. */
  readonly redirects: number;
  /** Nothing has changed since the last time: there are no bytes. */
  readonly unchanged: boolean;
  readonly bytes: Buffer;
  readonly contentType: string;
  readonly etag: string | null;
  readonly lastModified: string | null;
}

export type Fetcher = (address: string, options?: FetchOptions) => Promise<Fetched>;

/** What a stand-in answers, as a server would; null where it has nothing at an address. */
export interface StandInAnswer {
  readonly contentType: string;
  readonly body: string | Buffer;
  readonly etag?: string;
  /** It leads on to another address. */
  readonly location?: string;
}
export type StandIn = (address: URL) => StandInAnswer | null | Promise<StandInAnswer | null>;

interface Around {
  /** Servers that ship with the application, by their host: they are asked in place of the network. */
  readonly standIns?: ReadonlyMap<string, StandIn>;
  /** How long all of it may take, ms. */
  readonly timeMs?: number;
  /** Tests ask servers of this machine. */
  readonly privateToo?: boolean;
}

const REDIRECTS = new Set([301, 302, 303, 307, 308]);

function addressOf(written: string, base?: string): URL {
  if (!URL.canParse(written, base)) throw new FetchError("This is no address of the web.");
  const url = new URL(written, base);
  if (!/^https?:$/.test(url.protocol)) {
    throw new FetchError("An address begins with http:// or https://.");
  }
  if (url.username || url.password) {
    throw new FetchError("An address with a name or a password in it is not fetched.");
  }
  return url;
}

/** What went wrong on the line, in words. */
function inWords(error: unknown, signal: AbortSignal, timeMs: number): unknown {
  if (error instanceof FetchError) return error;
  if (signal.aborted) {
    const { name } = signal.reason as Error;
    if (name !== "TimeoutError") return signal.reason;
    return new FetchError(`It took longer than ${timeMs / 1_000} seconds.`);
  }
  const code = (error as NodeJS.ErrnoException).code ?? "";
  if (code === "ENOTFOUND" || code === "EAI_AGAIN") {
    return new FetchError("There is no server of this name.", {
      cause: error,
      gone: code === "ENOTFOUND",
    });
  }
  if (/CERT|SSL|TLS|SELF_SIGNED|UNABLE_TO/.test(code)) {
    return new FetchError("The server's certificate cannot be trusted.", { cause: error });
  }
  if (code.startsWith("Z_") || code.startsWith("ERR__ERROR")) {
    return new FetchError("What the server sends cannot be unpacked.", { cause: error });
  }
  return new FetchError("The server does not answer, or breaks off.", { cause: error });
}

/** After how many minutes a server wants to be asked again (RFC 9110, 10.2.3), within bounds; null where it does not say. */
function retryAfterOf(header: string | undefined, now: number): number | null {
  if (!header) return null;
  const seconds = /^\d+$/.test(header.trim()) ? Number(header) : (Date.parse(header) - now) / 1_000;
  if (!Number.isFinite(seconds) || seconds <= 0) return null;
  return Math.min(Math.ceil(seconds / 60), LIMITS.retryAfterMost);
}

function answerOf(status: number, retryAfter: number | null = null): FetchError {
  if (status === 404 || status === 410)
    return new FetchError(`There is nothing at this address (${status}).`, { gone: true });
  if (status === 401 || status === 403)
    return new FetchError(`The server lets nobody read it (${status}).`);
  if (status === 429)
    return new FetchError("The server asks for less haste (429).", { retryAfter });
  return new FetchError(`The server answers with ${status}.`, { retryAfter });
}

const UNPACKED: Record<string, () => NodeJS.ReadWriteStream> = {
  gzip: createGunzip,
  "x-gzip": createGunzip,
  br: createBrotliDecompress,
  deflate: createInflate,
};

/** The bytes of an answer, unpacked. What is packed small and large inside is stopped at the limit too. */
async function bytesOf(answer: IncomingMessage, most: number): Promise<Buffer> {
  const packed = (answer.headers["content-encoding"] ?? "").trim().toLowerCase();
  const unpack = UNPACKED[packed]?.();
  const stream = (unpack ? answer.pipe(unpack) : answer) as Readable;
  // A line that is cut ends what unpacks it too.
  answer.once("error", (error) => stream.destroy(error));
  answer.once("aborted", () => stream.destroy(new Error("broken off")));
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of stream) {
    size += (part as Buffer).length;
    if (size > most) throw new FetchError(`It is larger than ${Math.round(most / 1e5) / 10} MB.`);
    parts.push(part as Buffer);
  }
  return Buffer.concat(parts);
}

type Method = "GET" | "HEAD" | "POST";

function ask(
  method: Method,
  url: URL,
  headers: Record<string, string>,
  signal: AbortSignal,
  privateToo: boolean,
  body?: string,
) {
  if (!privateToo && isRefusedHost(url.hostname)) throw refusal();
  const request = url.protocol === "https:" ? requestHttps : requestHttp;
  return new Promise<IncomingMessage>((ok, fail) => {
    request(
      url,
      { method, headers, signal, agent: false, ...(!privateToo && { lookup: publicLookup }) },
      ok,
    )
      .once("error", fail)
      .end(body);
  });
}

/** Makes the fetcher. It throws a FetchError that says in a sentence why there is nothing. */
export function createFetcher({
  standIns = new Map(),
  timeMs = LIMITS.fetchMs,
  privateToo = false,
}: Around = {}): Fetcher {
  return async (address, options = {}) => {
    const { etag = null, lastModified = null, accept = "*/*", most = LIMITS.fetchBytes } = options;
    const time = AbortSignal.timeout(timeMs);
    const signal = options.signal ? AbortSignal.any([options.signal, time]) : time;
    const headers = {
      accept,
      "accept-encoding": "gzip, br, deflate",
      "user-agent": "Septima",
      ...(etag && { "if-none-match": etag }),
      ...(lastModified && { "if-modified-since": lastModified }),
      ...options.post?.headers,
    };
    let url = addressOf(address);
    let method: Method = options.post ? "POST" : options.only ? "HEAD" : "GET";
    const leadOn = (to: string, redirects: number) => {
      if (redirects === LIMITS.fetchRedirects) {
        throw new FetchError(`It leads on more than ${LIMITS.fetchRedirects} times.`);
      }
      url = addressOf(to, url.href);
    };
    for (let redirects = 0; ; redirects++) {
      const standIn = standIns.get(url.host);
      if (standIn) {
        const answer = await standIn(url);
        if (!answer?.location) return fromStandIn(answer, url, redirects, etag);
        leadOn(answer.location, redirects);
        continue;
      }
      try {
        const answer = await ask(method, url, headers, signal, privateToo, options.post?.body);
        const status = answer.statusCode ?? 0;
        if (options.post) {
          answer.destroy();
          if (status >= 200 && status < 300) return { ...NOTHING, address: url.href, redirects };
          throw REDIRECTS.has(status)
            ? new FetchError("The address leads on to another: name that one.")
            : answerOf(status, retryAfterOf(answer.headers["retry-after"], Date.now()));
        }
        const to = answer.headers.location;
        if (REDIRECTS.has(status) && to) {
          answer.destroy();
          leadOn(to, redirects);
          continue;
        }
        if (options.only && (status < 400 || method === "GET")) {
          answer.destroy();
          if (status >= 400) throw answerOf(status);
          return { ...NOTHING, address: url.href, redirects };
        }
        if (method === "HEAD") {
          answer.destroy();
          method = "GET";
          redirects--;
          continue;
        }
        const unchanged = status === 304;
        if (!unchanged && status !== 200) {
          answer.destroy();
          throw answerOf(status, retryAfterOf(answer.headers["retry-after"], Date.now()));
        }
        return {
          address: url.href,
          redirects,
          unchanged,
          bytes: unchanged ? Buffer.alloc(0) : await bytesOf(answer, most),
          contentType: answer.headers["content-type"] ?? "",
          etag: answer.headers.etag ?? null,
          lastModified: answer.headers["last-modified"] ?? null,
        };
      } catch (error) {
        throw inWords(error, signal, timeMs);
      }
    }
  };
}

const NOTHING = {
  unchanged: false,
  bytes: Buffer.alloc(0),
  contentType: "",
  etag: null,
  lastModified: null,
};

function fromStandIn(
  answer: StandInAnswer | null,
  url: URL,
  redirects: number,
  known: string | null,
): Fetched {
  if (!answer) throw answerOf(404);
  const { contentType, body, etag = null } = answer;
  const unchanged = etag !== null && etag === known;
  const bytes = unchanged ? Buffer.alloc(0) : Buffer.from(body as string);
  return { address: url.href, redirects, unchanged, bytes, contentType, etag, lastModified: null };
}
