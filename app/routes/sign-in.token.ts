/** The address printed at the start: signs in once. */
import { redirect } from "react-router";
import { servicesContext } from "#server/http/context.ts";
import { createSession, redeemSignInLink } from "#server/store/team.ts";
import { sessionHeader } from "../session.ts";
import type { Route } from "./+types/sign-in.token.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { database, clock } = context.get(servicesContext);
  const member = await redeemSignInLink(database.sql, params.token, clock.now());
  if (!member) return redirect("/sign-in?used");
  const session = await createSession(database.sql, member, clock.now());
  return redirect("/", { headers: await sessionHeader(session, context) });
}
