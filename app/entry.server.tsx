import { createReadableStreamFromReadable } from "@react-router/node";
import { isbot } from "isbot";
import {
  type EntryContext,
  type HandleErrorFunction,
  isRouteErrorResponse,
  type RouterContextProvider,
  ServerRouter,
} from "react-router";
import { begunContext, nonceContext, servicesContext } from "#server/http/context.ts";
import { pagePolicy } from "#server/http/policies.ts";
import { drawPage } from "./draw-page.ts";

/** What is counted late may take its time. */
export const streamTimeout = 60_000;

/** What pages failed in is logged once, with its reference, where they are called; what is left here is of the drawing. */
export function handleError(error: unknown, { request, context }: HandleErrorArgs): void {
  if (request.signal.aborted || isRouteErrorResponse(error)) return;
  const { log } = (context as RouterContextProvider).get(servicesContext);
  log.error({ err: error, path: new URL(request.url).pathname }, "a page could not be drawn");
}
type HandleErrorArgs = Parameters<HandleErrorFunction>[1];

/** Lets what comes late begin, once what is there has been handed on. */
const going = (context: Readonly<RouterContextProvider>) =>
  setImmediate(context.get(begunContext).go);

/** The data of a page that is drawn in the browser. */
export function handleDataRequest(
  response: Response,
  { context }: { context: Readonly<RouterContextProvider> },
): Response {
  going(context);
  return response;
}

/** Renders a page; every script in it carries the response's nonce. */
export default async function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  entry: EntryContext,
  context: RouterContextProvider,
): Promise<Response> {
  const nonce = context.get(nonceContext);
  const page = <ServerRouter context={entry} url={request.url} nonce={nonce} />;
  const body = await drawPage(page, {
    nonce,
    whole: isbot(request.headers.get("user-agent") ?? ""),
    patience: streamTimeout + 1_000,
    ready: () => going(context),
    failed: (error) => handleError(error, { request, params: {}, context: context as never }),
  });
  headers.set("Content-Security-Policy", pagePolicy(nonce));
  headers.set("Content-Type", "text/html; charset=utf-8");
  return new Response(createReadableStreamFromReadable(body), { headers, status });
}
