/** How much may be sent to which address, held while it is read. */
import { Transform } from "node:stream";
import type { Request, RequestHandler, Response } from "express";
import { LIMITS } from "#core/limits.ts";

/** A little more than a file: names and boundaries of the form it comes in. */
const AROUND = 100_000;

/** By the first pattern that fits; what fits none is an ordinary form. */
const MOST: readonly [RegExp, number][] = [
  [/^\/(sign-in|join|u|p|q|confirm|review)(\/|$)/, LIMITS.publicForm],
  [/^\/campaigns\/[^/]+\/(edits|draft)$/, LIMITS.editRequest],
  [/^\/campaigns\/[^/]+\/attachments$/, LIMITS.attachmentBytes + AROUND],
  [/^\/people\/held$/, LIMITS.pasteForm],
  [/^\/people\/imports\/upload$/, LIMITS.importBytes + AROUND],
  [/^\/campaigns\/new\/arrive$/, LIMITS.foreignUpload + AROUND],
  [/^\/library\/themes$/, LIMITS.pictureBytes + AROUND],
  [/^\/library\/pictures$/, LIMITS.pictureUpload + AROUND],
  [/^\/library\/fonts$/, LIMITS.fontBytes + AROUND],
  [/^\/library\/files\/brought$/, LIMITS.fileBytes + AROUND],
  [/^\/library\/saved\/brought$/, LIMITS.foreignUpload + AROUND],
  [/^\/shop\/[^/]+$/, LIMITS.shopBytes],
  [/^\/library\/catalogues\/[^/]+$/, LIMITS.shopBytes + AROUND],
  [/^\/library\/rolls\/[^/]+$/, LIMITS.codesBytes + AROUND],
];

/** Bytes that may be sent to a path. Data requests carry the page's path with `.data` behind it. */
export function mostFor(path: string): number {
  const page = path.replace(/\.data$/, "");
  return MOST.find(([pattern]) => pattern.test(page))?.[1] ?? LIMITS.form;
}

const TOO_MUCH = "This is more than can be sent here.";
/** How long what is still to come is thrown away, so that the answer is read before the line ends; ms. */
const LINGER_MS = 3_000;

/** Answers 413. The line stays until the other side has stopped: an end at once takes the answer with it (RFC 9112, 9.6). */
function refuse(request: Request, response: Response): void {
  if (response.headersSent) return;
  response
    .status(413)
    .type("text")
    .set({ Connection: "close", "Content-Length": `${TOO_MUCH.length}` });
  response.write(TOO_MUCH);
  const end = () => {
    clearTimeout(timer);
    response.end();
  };
  const timer = setTimeout(end, LINGER_MS);
  request.on("end", end).on("close", end).resume();
}

/** What a handler reads in place of the request: the same, until more has come than may. */
function held(request: Request, response: Response, most: number): Request {
  let read = 0;
  const body = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      read += chunk.length;
      if (read <= most) return done(null, chunk);
      request.unpipe(body);
      refuse(request, response);
      done(new Error("More was sent than may be"));
    },
  });
  // Whoever reads hears of it; nobody reading is no reason for the process to end.
  body.on("error", () => {});
  request.on("error", (error) => body.destroy(error));
  request.on("aborted", () => body.destroy(new Error("The line was cut")));
  request.pipe(body);
  const { method, headers, originalUrl, protocol, hostname, app } = request;
  return Object.assign(body, {
    method,
    headers,
    originalUrl,
    protocol,
    hostname,
    app,
    get: request.get.bind(request),
  }) as unknown as Request;
}

/** A handler that is given no more of a request than may be sent to its address; more is answered 413. */
export const withHeldBody =
  (handler: RequestHandler): RequestHandler =>
  (request, response, next) => {
    if (request.method === "GET" || request.method === "HEAD")
      return handler(request, response, next);
    const most = mostFor(request.path);
    if (Number(request.get("content-length") ?? 0) > most) return refuse(request, response);
    return handler(held(request, response, most), response, next);
  };
