/** The JSON Schema of the files that Septima writes. */
import { fileJsonSchema } from "#core/files/index.ts";

let kept: string | null = null;

export function loader() {
  kept ??= JSON.stringify(fileJsonSchema(), null, 2);
  return new Response(kept, { headers: { "Content-Type": "application/schema+json" } });
}
