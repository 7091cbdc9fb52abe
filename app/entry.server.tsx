import { PassThrough } from "node:stream";
import { createReadableStreamFromReadable } from "@react-router/node";
import { isbot } from "isbot";
import { renderToPipeableStream } from "react-dom/server";
import {
  type EntryContext,
  type HandleErrorFunction,
  isRouteErrorResponse,
  type RouterContextProvider,
  ServerRouter,
} from "react-router";
import { begunContext, nonceContext, servicesContext } from "#server/http/context.ts";
import { pagePolicy } from "#server/http/policies.ts";

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
export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  entry: EntryContext,
  context: RouterContextProvider,
) {
  const nonce = context.get(nonceContext);
  const whole = isbot(request.headers.get("user-agent") ?? "");
  return new Promise<Response>((resolve, reject) => {
    let sent = false;
    /** Before the page stands: it stands without what failed, which the browser tries again; else it is told below. */
    const early: unknown[] = [];
    const told = (error: unknown) =>
      handleError(error, { request, params: {}, context: context as never });
    const send = () => {
      sent = true;
      early.forEach(told);
      const body = new PassThrough();
      headers.set("Content-Security-Policy", pagePolicy(nonce));
      headers.set("Content-Type", "text/html; charset=utf-8");
      resolve(new Response(createReadableStreamFromReadable(body), { headers, status }));
      pipe(body);
    };
    const timer = setTimeout(() => abort(), streamTimeout + 1_000);
    const { pipe, abort } = renderToPipeableStream(
      <ServerRouter context={entry} url={request.url} nonce={nonce} />,
      {
        nonce,
        onShellReady() {
          if (!whole) send();
          going(context);
        },
        onAllReady() {
          clearTimeout(timer);
          if (whole) send();
        },
        onShellError(error) {
          clearTimeout(timer);
          reject(error);
        },
        onError(error: unknown) {
          if (sent) told(error);
          else early.push(error);
        },
      },
    );
  });
}
