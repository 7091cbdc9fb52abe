/** A shop tells what was looked at and bought: signed with the secret of its catalogue. */
import { servicesContext } from "#server/http/context.ts";
import { takeShopMessage } from "#server/sources/shop.ts";
import type { Route } from "./+types/shop.hook.ts";

export const loader = () => new Response("Tell it by POST.", { status: 405 });

export async function action({ request, params, context }: Route.ActionArgs) {
  if (request.method !== "POST") return new Response("Tell it by POST.", { status: 405 });
  const body = new Uint8Array(await request.arrayBuffer());
  const signature = request.headers.get("x-signature");
  const services = context.get(servicesContext);
  const taken = await takeShopMessage(services, params.source, body, signature);
  if ("status" in taken) return Response.json({ message: taken.message }, { status: taken.status });
  return Response.json(taken);
}
