import type { ReactNode } from "react";
import {
  Link,
  Links,
  Meta,
  Outlet,
  redirect,
  Scripts,
  ScrollRestoration,
  useRouteLoaderData,
} from "react-router";
import {
  memberContext,
  nonceContext,
  servicesContext,
  sessionContext,
} from "#server/http/context.ts";
import { getSettings } from "#server/store/settings.ts";
import { memberOfSession } from "#server/store/team.ts";
import type { Route } from "./+types/root.ts";
import "./app.css";
import { isPublic } from "./public.ts";
import { readSession } from "./session.ts";
import { Buttonlike } from "./ui/button.tsx";
import { Told } from "./ui/failed.tsx";
import { ToastProvider } from "./ui/toast.tsx";

/** The guard: no page opens without a session, those for readers and for signing in aside. */
const guard: Route.MiddlewareFunction = async ({ request, context }) => {
  const { pathname, search } = new URL(request.url);
  if (isPublic(pathname)) return;
  const { database, clock } = context.get(servicesContext);
  const session = await readSession(request, context);
  const member = session && (await memberOfSession(database.sql, session, clock.now()));
  if (!member) {
    // What is asked for by a page that stands already answers the page; a person is led to sign in.
    const pages =
      pathname.endsWith(".data") || request.headers.get("accept")?.includes("text/html");
    if (!pages) throw new Response("Sign in first.", { status: 401 });
    const next = request.method === "GET" ? `?next=${encodeURIComponent(pathname + search)}` : "";
    throw redirect(`/sign-in${next}`);
  }
  context.set(memberContext, member);
  context.set(sessionContext, session!);
};
export const middleware: Route.MiddlewareFunction[] = [guard];

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql } = context.get(servicesContext).database;
  const { pathname } = new URL(request.url);
  // Pages of readers need nothing of the studio.
  const language = isPublic(pathname) ? null : (await getSettings(sql)).sender.language;
  return { nonce: context.get(nonceContext), language };
}

// The nonce of the first page is the one its policy names; the language changes in the settings and by signing in.
export const shouldRevalidate = ({ formAction }: { formAction?: string }) =>
  /^\/(settings|sign-in)/.test(formAction ?? "");

export const meta: Route.MetaFunction = () => [{ title: "Septima" }];

export function Layout({ children }: { children: ReactNode }) {
  const data = useRouteLoaderData<typeof loader>("root");
  const nonce = typeof window === "undefined" ? data?.nonce : "";
  return (
    <html lang="en">
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <link rel="icon" href="/mark.svg" type="image/svg+xml" />
        <Meta />
        <Links />
      </head>
      <body>
        <ToastProvider>{children}</ToastProvider>
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  );
}

export default function App() {
  return <Outlet />;
}

/** Unknown addresses and failures outside of every room and place: what happened, and a way back. */
export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return (
    <main className="mx-auto flex max-w-md flex-col items-start gap-4 px-6 py-24">
      <Told error={error} />
      <Buttonlike asChild primary>
        <Link to="/">Back to the desk</Link>
      </Buttonlike>
    </main>
  );
}
