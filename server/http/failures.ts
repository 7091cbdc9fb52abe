/**
 * What goes wrong in a request is logged with a reference, and the answer shows that alone. Nothing that was sent
 * ends the process.
 */
import type { ErrorRequestHandler } from "express";
import type { Logger } from "pino";
import { data, isRouteErrorResponse, type ServerBuild } from "react-router";
import { DatabaseError } from "../db/database.ts";
import { newId } from "../ids.ts";

/** Said of a failure, wherever it shows. */
export interface Failure {
  readonly reference: string;
}

/** SQLSTATE class 22, data exception: a value that no text or number can be. It was sent so. */
const isUnreadable = (error: unknown): boolean =>
  error instanceof DatabaseError && error.code?.startsWith("22") === true;

/** An answer that a route threw on purpose. */
const isAnswer = (error: unknown): boolean =>
  error instanceof Response ||
  isRouteErrorResponse(error) ||
  (typeof error === "object" &&
    error !== null &&
    "type" in error &&
    error.type === "DataWithResponseInit");

type Handler = (...args: never[]) => unknown;

function guarded(handler: Handler, where: string, log: Logger): Handler {
  return async (...args) => {
    try {
      return await handler(...args);
    } catch (error) {
      if (isAnswer(error)) throw error;
      // Nobody waits for the answer any more: the line was cut.
      const [{ request } = {}] = args as unknown as [{ request?: Request }?];
      if (request?.signal.aborted) throw data(null, { status: 400 });
      if (isUnreadable(error)) throw data("This could not be read.", { status: 400 });
      const reference = newId();
      log.error({ err: error, reference, route: where }, "a request failed");
      throw data({ reference } satisfies Failure, { status: 500 });
    }
  };
}

/** The same pages, whose loaders and actions never show what went wrong in them. */
export function withReferences(build: ServerBuild, log: Logger): ServerBuild {
  const routes = Object.entries(build.routes).map(([id, route]) => {
    if (!route) return [id, route];
    const { loader, action } = route.module;
    const module = {
      ...route.module,
      ...(loader && { loader: guarded(loader as Handler, id, log) }),
      ...(action && { action: guarded(action as Handler, id, log) }),
    };
    return [id, { ...route, module }];
  });
  return { ...build, routes: Object.fromEntries(routes) };
}

/** The last of the handlers: a malformed address, or something that no page caught. */
export const lastAnswer =
  (log: Logger): ErrorRequestHandler =>
  (error, _request, response, _next) => {
    const asked = error instanceof URIError || (error?.status >= 400 && error?.status < 500);
    const reference = newId();
    if (!asked) log.error({ err: error, reference }, "a request failed");
    if (response.headersSent) return void response.destroy();
    response.status(asked ? 400 : 500).type("text");
    response.send(
      asked ? "This address could not be read." : `Something went wrong. Reference: ${reference}`,
    );
  };

/** An error that nobody waited for is one request's: it is logged, and the others go on. */
export function surviveErrors(log: Logger): void {
  process.on("unhandledRejection", (error) => log.error({ err: error }, "nobody waited for this"));
  process.on("uncaughtException", (error) => log.error({ err: error }, "nobody caught this"));
}
