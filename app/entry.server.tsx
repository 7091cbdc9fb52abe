import { PassThrough } from "node:stream";
import { createReadableStreamFromReadable } from "@react-router/node";
import { isbot } from "isbot";
import { renderToPipeableStream } from "react-dom/server";
import { type EntryContext, type RouterContextProvider, ServerRouter } from "react-router";
import { nonceContext } from "#server/context.ts";
import { pagePolicy } from "#server/http/policies.ts";

export const streamTimeout = 10_000;

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
    let code = status;
    let sent = false;
    const { pipe, abort } = renderToPipeableStream(
      <ServerRouter context={entry} url={request.url} nonce={nonce} />,
      {
        nonce,
        [whole ? "onAllReady" : "onShellReady"]() {
          sent = true;
          const body = new PassThrough();
          headers.set("Content-Security-Policy", pagePolicy(nonce));
          headers.set("Content-Type", "text/html; charset=utf-8");
          resolve(new Response(createReadableStreamFromReadable(body), { headers, status: code }));
          pipe(body);
        },
        onShellError: reject,
        onError(error: unknown) {
          code = 500;
          if (sent) console.error(error);
        },
      },
    );
    setTimeout(abort, streamTimeout + 1_000);
  });
}
