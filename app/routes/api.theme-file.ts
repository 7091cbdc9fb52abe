/** A theme as a file to download: ours, or Design Tokens. */
import { writeFile } from "#core/files/index.ts";
import { toTokens } from "#core/theme/tokens.ts";
import { themeNamed } from "#server/campaigns/starting.ts";
import { fileFonts } from "#server/export/carried.ts";
import { fileNameOf } from "#server/export/name.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.theme-file.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, sql } = at(context);
  const theme = await themeNamed(sql, params.theme);
  const kind =
    params.kind === "tokens.json" ? "tokens" : params.kind === "theme.json" ? "theme" : null;
  if (!theme || !kind) return new Response("There is no such file.", { status: 404 });
  return new Response(
    kind === "tokens"
      ? toTokens(theme)
      : writeFile({ kind: "theme", theme, fonts: await fileFonts(services, theme) }),
    {
      headers: {
        "Content-Type": "application/json",
        "Content-Disposition": `attachment; filename="${fileNameOf(theme.name)}.${kind}.json"`,
        "Cache-Control": "no-store",
      },
    },
  );
}
