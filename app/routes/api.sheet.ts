/**
 * The page in a sheet's frame: empty, for the application to write an email into, or with the email of the page that
 * was just made. Its policy is its own, so that nothing in an email can run or fetch more than pictures.
 */
import { sheetPolicy } from "#server/http/policies.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.sheet.ts";

const EMPTY =
  "<!doctype html><html lang='en'><head><title>Sheet</title></head><body></body></html>";

export function loader({ params, context }: Route.LoaderArgs) {
  const { served } = params as { served?: string };
  const email = served === undefined ? null : at(context).services.framePages.get(served);
  return new Response(email ?? EMPTY, {
    headers: {
      "Content-Type": "text/html; charset=utf-8",
      "Content-Security-Policy": sheetPolicy,
      // A wall has many frames: the empty page is the same in all of them.
      "Cache-Control": served === undefined ? "private, max-age=3600" : "no-store",
    },
  });
}
