/** The themes that an email can take. */
import { offeredThemes } from "#server/campaigns/starting.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.themes.ts";

export const loader = async ({ context }: Route.LoaderArgs) =>
  Response.json(await offeredThemes(at(context).sql), { headers: { "Cache-Control": "no-store" } });
