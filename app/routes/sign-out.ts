import { redirect } from "react-router";
import { endSession } from "#server/store/team.ts";
import { at } from "../request.ts";
import { endedHeader, readSession } from "../session.ts";
import type { Route } from "./+types/sign-out.ts";

export const loader = () => redirect("/");

export async function action({ request, context }: Route.ActionArgs) {
  const session = await readSession(request, context);
  if (session) {
    const { sql, services } = at(context);
    await endSession(sql, session);
    services.streams.endOf(session);
  }
  return redirect("/sign-in", { headers: await endedHeader(context) });
}
