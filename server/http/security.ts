/** Headers, and refusing requests that other sites forge. */
import { randomBytes } from "node:crypto";
import type { NextFunction, Request, RequestHandler, Response } from "express";
import helmet from "helmet";

/** Headers of every response, and the nonce of the page's own scripts. Policies come with the pages. */
export function securityHeaders(publicAddress: string): RequestHandler[] {
  const nonce: RequestHandler = (_request, response, next) => {
    response.locals.nonce = randomBytes(16).toString("base64");
    next();
  };
  const headers = helmet({
    contentSecurityPolicy: false,
    strictTransportSecurity: publicAddress.startsWith("https:"),
    referrerPolicy: { policy: "same-origin" },
    crossOriginResourcePolicy: { policy: "same-site" },
  });
  return [nonce, headers];
}

/** Refuses addresses with a NUL in them: the database keeps none, so nothing can be found by one. */
export const readableAddress: RequestHandler = (request, response, next) => {
  if (!request.originalUrl.includes("%00")) return next();
  response.status(400).type("text").send("This address could not be read.");
};

const SAFE = new Set(["GET", "HEAD", "OPTIONS"]);

/** Mail programs unsubscribe from elsewhere, sign-up forms stand on other sites, and shops tell what was bought. */
const PUBLIC_POSTS = /^\/(u|join|shop)\//;

/**
 * Refuses requests that change something unless they come from a page of the application itself: by
 * `Sec-Fetch-Site`, or by `Origin` where a browser is too old to say. Mail programs unsubscribe by a POST
 * from elsewhere (RFC 8058), by an address with its own signed token; sign-ups come from other sites, and shops sign what they tell. No
 * cookie counts at any of them.
 */
export function refuseForged(publicAddress: string): RequestHandler {
  const own = new URL(publicAddress).origin;
  return (request: Request, response: Response, next: NextFunction) => {
    if (SAFE.has(request.method) || PUBLIC_POSTS.test(request.path)) return next();
    const site = request.get("sec-fetch-site");
    const origin = request.get("origin");
    const same = site ? site === "same-origin" : origin === own;
    if (same) return next();
    response.status(403).type("text").send("This request did not come from Septima.");
  };
}
