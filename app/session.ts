/** The session cookie: a random id, signed; what it stands for is in the database. */
import { createCookie, type RouterContextProvider } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { servicesContext } from "#server/http/context.ts";

function cookie(context: Readonly<RouterContextProvider>) {
  const { signer, config } = context.get(servicesContext);
  return createCookie("septima_session", {
    httpOnly: true,
    sameSite: "lax",
    path: "/",
    secure: config.publicAddress.startsWith("https:"),
    maxAge: LIMITS.sessionDays * 86_400,
    secrets: [signer.derive("session cookie")],
  });
}

type Context = Readonly<RouterContextProvider>;

export async function readSession(request: Request, context: Context): Promise<string | null> {
  const value: unknown = await cookie(context).parse(request.headers.get("Cookie"));
  return typeof value === "string" ? value : null;
}

export const sessionHeader = async (id: string, context: Context) => ({
  "Set-Cookie": await cookie(context).serialize(id),
});

export const endedHeader = async (context: Context) => ({
  "Set-Cookie": await cookie(context).serialize("", { maxAge: 0 }),
});

/** A path of this application to go on to, or the desk: never an address elsewhere. */
export function safePath(path: string | null): string {
  // Browsers drop control characters from addresses, and read a backslash as a slash.
  if (!path?.startsWith("/")) return "/";
  const plain = !/^\/\/|[\\\p{Cc}]/u.test(path);
  return plain ? path : "/";
}
