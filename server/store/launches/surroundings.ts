/** The surroundings that a launch froze, as they are kept. */
import { z } from "zod";
import type { DerivedTag } from "#core/derived/index.ts";
import { liveItemSchema } from "#core/items/index.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import { linkParameterSchema } from "#core/kinds/parameters.ts";
import type { Sql as SqlPiece } from "#core/rules/index.ts";
import { jsonb } from "../../db/values.ts";

const frozenSchema = z.object({
  brand: z.object({ name: z.string(), postalAddress: z.string() }),
  publicAddress: z.string(),
  name: z.string().default(""),
  derived: z.array(z.custom<DerivedTag>()).default([]),
  fallbacks: z.array(z.tuple([z.string(), z.string()])).default([]),
  zoneField: z.string().nullable().default(null),
  nameField: z.string().nullable().default(null),
  linkParameters: z.array(linkParameterSchema).default([]),
  /** The items it shows, by node. */
  live: z
    .array(
      z.tuple([
        z.string(),
        z.object({
          items: z.array(liveItemSchema),
          perReader: z.object({ standard: z.array(z.string()) }).nullable(),
        }),
      ]),
    )
    .default([]),
  pictures: z.array(
    z.object({
      id: z.string(),
      file: z.string(),
      width: z.number(),
      height: z.number(),
      name: z.string(),
      alpha: z.boolean().default(false),
      bytes: z.number().optional(),
      tones: z.array(z.number()).nullish(),
    }),
  ),
});

/** Surroundings as they are kept, with the name the campaign had. */
export const writeSurroundings = (
  {
    brand,
    publicAddress,
    pictures,
    derived,
    fallbacks,
    zoneField = null,
    nameField = null,
    live,
    linkParameters = [],
  }: Surroundings,
  name: string,
): SqlPiece =>
  jsonb({
    ...{ brand, publicAddress, name, zoneField, nameField, linkParameters },
    pictures: [...pictures.values()],
    derived: [...(derived ?? new Map()).values()],
    fallbacks: [...(fallbacks ?? new Map())],
    live: [...(live ?? new Map())],
  });

export interface FrozenSurroundings {
  readonly name: string;
  readonly around: Surroundings;
}

/** Surroundings as they were kept, and the name with them. Throws a ZodError. */
export function readSurroundings(kept: unknown): FrozenSurroundings {
  const frozen = frozenSchema.parse(kept);
  const { name, brand, publicAddress, zoneField, nameField, linkParameters } = frozen;
  return {
    name,
    around: {
      ...{ brand, publicAddress, zoneField, nameField, linkParameters },
      pictures: new Map(frozen.pictures.map((p) => [p.id, p])),
      derived: new Map(frozen.derived.map((tag) => [tag.id, tag])),
      fallbacks: new Map(frozen.fallbacks),
      live: new Map(frozen.live),
    },
  };
}
