/** What was removed is named in the address of the page that comes next, which tells it and offers to put it back. */
import { type RouterContextProvider, redirect } from "react-router";
import { type Removable, takeOut } from "#server/store/bin.ts";
import { REMOVED } from "./removed-param.ts";
import { at } from "./request.ts";

/** Link to a page that tells of what was removed. */
export const tellingRemoved = (path: string, removed: string) =>
  redirect(`${path}${path.includes("?") ? "&" : "?"}${REMOVED}=${removed}`);

/** Removes something, and leads to a page that tells of it; `label` names it to people. */
export async function removing(
  context: Readonly<RouterContextProvider>,
  table: Removable,
  id: string,
  label: string,
  path: string,
): Promise<Response> {
  const { services, now } = at(context);
  const removed = await services.database.tx((sql) => takeOut(sql, table, id, label, now));
  // Somebody else has removed it: there is nothing left to do.
  return removed ? tellingRemoved(path, removed) : redirect(path);
}
