/** Saves what a form says of a person's fields (`f.ID`): all of it, or nothing and what is wrong by field. */
import { data, type RouterContextProvider } from "react-router";
import { readValues, recordBook, writeValues } from "#server/audience/field-values.ts";
import { changeValues, getContact } from "#server/store/contacts.ts";
import { getSchema } from "#server/store/fields.ts";
import { at } from "../request.ts";

/** The fields a form writes; several inputs of one name are several choices. */
export function writtenIn(form: FormData): Record<string, string> {
  const written: Record<string, string> = {};
  for (const key of new Set(form.keys())) {
    if (!key.startsWith("f.")) continue;
    const texts = form.getAll(key).filter((one) => typeof one === "string" && one !== "");
    written[key.slice(2)] = texts.join("; ");
  }
  return written;
}

export async function saveValues(
  context: Readonly<RouterContextProvider>,
  contact: number,
  form: FormData,
) {
  const { services, sql } = at(context);
  const { fields, tables } = await getSchema(sql);
  const book = await recordBook(sql, fields, tables);
  const { values, problems } = readValues(writtenIn(form), fields, book);
  const wrong = Object.entries(problems);
  if (wrong.length > 0) {
    const [id, what] = wrong[0]!;
    const problem = `${fields.get(id)!.label}: ${what}.`;
    return data({ problems, problem, cells: null }, 400);
  }
  await services.database.tx((tx) => changeValues(tx, contact, values));
  const saved = await getContact(sql, contact);
  const cells = saved ? writeValues(saved.values, fields, book) : {};
  return data({ problems, problem: null, cells });
}
