/** What a launch froze of the variants of its email but the first. */
import { z } from "zod";
import type { EmailDocument } from "#core/document/index.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import type { CompiledLink } from "#core/render/index.ts";
import type { Sql as SqlPiece } from "#core/rules/index.ts";
import { linkSchema } from "#core/text/index.ts";
import type { Sql } from "../../db/database.ts";
import { jsonb } from "../../db/values.ts";
import { wholeDocument } from "../documents.ts";
import { readSurroundings } from "./surroundings.ts";

export const linksSchema: z.ZodType<readonly CompiledLink[]> = z.array(
  z.object({ node: z.string(), to: linkSchema, words: z.string() }),
);

export interface FrozenVariant {
  readonly doc: EmailDocument;
  readonly surroundings: Surroundings;
  readonly links: readonly CompiledLink[];
}

interface Place {
  readonly launch: string;
  /** From 1 on. */
  readonly variant: number;
}

/** Freezes a variant, as its document, surroundings and links are kept. */
export async function addVariant(
  sql: Sql,
  { launch, variant }: Place,
  document: string,
  surroundings: SqlPiece,
  links: readonly CompiledLink[],
): Promise<void> {
  await sql`insert into launch_variants (launch_id, variant, document, surroundings, links)
    values (${launch}, ${variant}, ${document}, ${surroundings}, ${jsonb(links)})`;
}

/** Notes how the items of a variant are shown. */
export async function noteVariant(
  sql: Sql,
  { launch, variant }: Place,
  surroundings: SqlPiece,
  links: readonly CompiledLink[],
): Promise<void> {
  await sql`update launch_variants set surroundings = ${surroundings}, links = ${jsonb(links)}
    where launch_id = ${launch} and variant = ${variant}`;
}

/** The variants of a launch but the first, in their order. */
export async function frozenVariants(sql: Sql, launch: string): Promise<FrozenVariant[]> {
  const rows = await sql<{ document: string; surroundings: unknown; links: unknown }>`
    select document, surroundings, links from launch_variants where launch_id = ${launch} order by variant`;
  return rows.map(({ document, surroundings, links }) => ({
    doc: wholeDocument(document),
    surroundings: readSurroundings(surroundings).around,
    links: linksSchema.parse(links),
  }));
}

interface InVariants {
  readonly variant: number;
  readonly variants: readonly FrozenVariant[];
}

/** A launch as one of its variants: its email, surroundings and links are those of that. */
export const inVariant = <L extends InVariants>(launch: L, variant: number): L => {
  const own = launch.variants[variant - 1];
  return own ? { ...launch, ...own, variant } : launch;
};

/** A launch as each of its variants. */
export const eachVariant = <L extends InVariants>(launch: L): L[] => [
  launch,
  ...launch.variants.map((_, i) => inVariant(launch, i + 1)),
];
