/** Saves what a form says of a person's fields (`f.ID`): all of it, or nothing and what is wrong by field. */
import { data, type RouterContextProvider } from "react-router";
import { readValues, recordBook, writeValues } from "#server/audience/field-values.ts";
import { changeValues, getContact } from "#server/store/contacts.ts";
import { getSchema } from "#server/store/fields.ts";
import { at } from "../request.ts";

/** What a form says by field under a prefix; several inputs of one name are several choices. */
function saidIn(form: FormData, prefix: string): Record<string, string> {
  const said: Record<string, string> = {};
  for (const key of new Set(form.keys())) {
    if (!key.startsWith(prefix)) continue;
    const texts = form.getAll(key).filter((one) => typeof one === "string" && one !== "");
    said[key.slice(prefix.length)] = texts.join("; ");
  }
  return said;
}

/** The fields a form writes: all it says, or where it tells what it showed of a field (`was.ID`), what differs from that. */
export function writtenIn(form: FormData): Record<string, string> {
  const was = saidIn(form, "was.");
  const said = Object.entries(saidIn(form, "f."));
  return Object.fromEntries(said.filter(([id, text]) => text !== was[id]));
}

/** What is said where somebody else was quicker. */
export const changedMeanwhile = (now: string): string =>
  now === ""
    ? "This has been cleared meanwhile; save again to put yours there"
    : `This has been changed to “${now}” meanwhile; save again to put yours in its place`;

/**
 * Of the fields a form writes those that somebody else has changed since it showed them, as they are `now`; what has
 * to be said of them is added to the `problems`.
 */
export function toldSince(
  form: FormData,
  now: Readonly<Record<string, string>>,
  problems: Record<string, string>,
): Record<string, string> {
  const was = saidIn(form, "was.");
  const since: Record<string, string> = {};
  for (const [id, text] of Object.entries(writtenIn(form))) {
    const there = now[id] ?? "";
    if (!(id in was) || there === was[id] || there === text) continue;
    since[id] = there;
    problems[id] ??= changedMeanwhile(there);
  }
  return since;
}

/**
 * Saves what a form writes of a contact, and nothing over what somebody else has put there since it was shown. `seen`
 * is what the person then knows of fields: what was saved, or what somebody else put there, which the next save may
 * replace.
 */
export async function saveValues(
  context: Readonly<RouterContextProvider>,
  contact: number,
  form: FormData,
) {
  const { services, sql } = at(context);
  const { fields, tables } = await getSchema(sql);
  const book = await recordBook(sql, fields, tables);
  const written = writtenIn(form);
  const { values, problems } = readValues(written, fields, book);
  const stored = await services.database.tx(async (tx) => {
    const cells = async () =>
      writeValues((await getContact(tx, contact))?.values ?? {}, fields, book);
    const since = toldSince(form, await cells(), problems);
    if (Object.keys(problems).length > 0) return { cells: null, seen: since };
    await changeValues(tx, contact, values);
    const after = await cells();
    const seen = Object.keys(written).map((id) => [id, after[id] ?? ""] as const);
    return { cells: after, seen: Object.fromEntries(seen) };
  });
  const wrong = Object.entries(problems);
  if (wrong.length === 0) return data({ ...stored, problems, problem: null });
  const [id, what] = wrong[0]!;
  const problem = `${fields.get(id)!.label}: ${what}.`;
  return data({ ...stored, problems, problem }, 400);
}
