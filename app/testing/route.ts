/** Calls loaders and actions in tests as the router does, for somebody who is signed in. */
import { RouterContextProvider } from "react-router";
import {
  memberContext,
  networkContext,
  servicesContext,
  sessionContext,
} from "#server/http/context.ts";
import type { Services } from "#server/services.ts";
import { addMember, type Member } from "#server/store/team.ts";

export interface Asked {
  readonly path?: string;
  readonly form?: Record<string, string>;
  readonly body?: BodyInit;
  readonly signal?: AbortSignal;
  readonly headers?: Record<string, string>;
}

/** Somebody who designs; each name is one person. */
export function aDesigner({ database, clock }: Services, name = "Ada"): Promise<Member> {
  const email = `${name.toLowerCase()}@larkmoor.example`;
  return addMember(database.sql, { name, email, role: "designer" }, clock.now());
}

/** What a loader or an action is called with. */
export function routeArgs(
  services: Services,
  member: Member,
  { path = "/", form, body = form && new URLSearchParams(form), signal, headers }: Asked,
  params: Record<string, string> = {},
) {
  const context = new RouterContextProvider();
  context.set(servicesContext, services);
  context.set(memberContext, member);
  context.set(sessionContext, "session");
  context.set(networkContext, "127.0.0.1");
  const url = `http://127.0.0.1:4999${path}`;
  const init = body === undefined ? { signal, headers } : { method: "POST", body, signal, headers };
  // biome-ignore lint/suspicious/noExplicitAny: each route's own argument type, filled with what it reads
  return { request: new Request(url, init), params, context } as any;
}

/** What an action answered: its data and the status. */
export function answered<T extends object = Record<never, never>>(
  answer: unknown,
): T & { status: number | undefined } {
  const { data, init } = answer as { data: T; init: number | ResponseInit | null };
  return { ...data, status: typeof init === "number" ? init : init?.status };
}
