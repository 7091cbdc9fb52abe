/** What stands in a file of Septima, as JSON Schema (draft 2020-12) for whoever reads or writes them elsewhere. */
import { z } from "zod";
import { BLOCKS } from "../blocks/index.ts";
import { bandSchema, columnSchema, emailSchema } from "../blocks/layout.ts";
import { SCHEMA_VERSION } from "../document/index.ts";
import type { AnyNodeKind } from "../kinds/kind.ts";
import { FILE_SCHEMAS } from "./file.ts";

const schemaOf = (schema: z.ZodType): object => {
  // What a check in code says beyond it is left out.
  const { $schema: _, ...made } = z.toJSONSchema(schema, { unrepresentable: "any", io: "input" });
  return made;
};

/** Every type of node with the schema of its properties. */
function* nodeTypes(): Generator<readonly [type: string, props: z.ZodType]> {
  yield ["email", emailSchema];
  yield ["band", bandSchema];
  yield ["column", columnSchema];
  const within = function* (kind: AnyNodeKind): Generator<readonly [string, z.ZodType]> {
    yield [kind.type, kind.schema];
    for (const item of kind.holds ?? []) yield* within(item);
  };
  for (const kind of BLOCKS) yield* within(kind);
}

/** The schema of all kinds of files. */
export function fileJsonSchema(): object {
  const node = (type: string, props: z.ZodType) => ({
    type: "object",
    required: ["id", "type", "props", "children"],
    properties: {
      id: { type: "string", pattern: "^[A-Za-z0-9_-]{1,40}$" },
      type: { const: type },
      // Translations and marks of words to be written over may stand beside what a kind has.
      props: { ...schemaOf(props), additionalProperties: true },
      children: { type: "array", items: { $ref: "#/$defs/node" } },
    },
  });
  const kinds = [...nodeTypes()];
  const files = Object.entries(FILE_SCHEMAS).map(([kind, schema]) => [kind, schemaOf(schema)]);
  const document = {
    type: "object",
    required: ["schemaVersion", "root"],
    properties: { schemaVersion: { const: SCHEMA_VERSION }, root: { $ref: "#/$defs/node.email" } },
  };
  const withDocument = (schema: { properties?: Record<string, unknown> }) =>
    schema.properties?.document
      ? { ...schema, properties: { ...schema.properties, document } }
      : schema;
  return {
    $schema: "https://json-schema.org/draft/2020-12/schema",
    title: "A file of Septima",
    anyOf: files.map(([, schema]) => withDocument(schema as object)),
    $defs: {
      node: { anyOf: kinds.map(([type]) => ({ $ref: `#/$defs/node.${type}` })) },
      ...Object.fromEntries(kinds.map(([type, props]) => [`node.${type}`, node(type, props)])),
    },
  };
}
