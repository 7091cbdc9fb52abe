/** Finds contacts to read as: by search, or the next and previous one. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { findContacts, getContact, stepContact } from "#server/store/contacts.ts";
import { choicesOf } from "../reader-choice.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.contacts.ts";

const querySchema = z.object({
  search: z.string().max(LIMITS.searchLength).optional(),
  id: z.coerce.number().int().positive().optional(),
  from: z.coerce.number().int().positive().optional(),
  to: z.enum(["next", "previous"]).optional(),
});

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!query.success) return Response.json({ contacts: [] }, { status: 400 });
  const { search, id, from, to } = query.data;
  const one = id === undefined ? null : await getContact(sql, id);
  const found =
    id !== undefined
      ? one
        ? [one]
        : []
      : to
        ? [await stepContact(sql, from ?? null, to)].filter((contact) => contact !== null)
        : await findContacts(sql, search ?? "");
  return Response.json({
    contacts: await choicesOf(sql, found),
  });
}
