/** Values of one person, saved from a cell of the table. */
import { getContact } from "#server/store/contacts.ts";
import { sentForm } from "../form.ts";
import { saveValues } from "../people/save-values.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.contact-values.ts";

export async function action({ request, params, context }: Route.ActionArgs) {
  const id = Number(params.contact);
  if (!Number.isSafeInteger(id) || !(await getContact(at(context).sql, id))) {
    return Response.json({ problem: "This person is gone." }, { status: 404 });
  }
  const { data: answer, init } = await saveValues(context, id, await sentForm(request));
  return Response.json(answer, init ?? undefined);
}
