/** Those who are sent tests together, by a name. */
import { LIMITS } from "#core/limits.ts";
import { keepTestGroup, removeTestGroup, testGroups } from "#server/store/tests.ts";
import { groupSchema } from "../proof/test-schema.ts";
import { at, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.test-groups.ts";

export async function action({ request, context }: Route.ActionArgs) {
  const asked = groupSchema.safeParse(await jsonOf(request));
  if (!asked.success) {
    return Response.json({ problem: asked.error.issues[0]!.message }, { status: 400 });
  }
  const { sql } = at(context);
  const { data } = asked;
  if (data.do === "remove") await removeTestGroup(sql, data.name);
  else {
    const known = await testGroups(sql);
    if (known.length >= LIMITS.testGroups && !known.some(({ name }) => name === data.name)) {
      return Response.json(
        { problem: `There are ${LIMITS.testGroups} groups already.` },
        { status: 409 },
      );
    }
    await keepTestGroup(sql, data);
  }
  return Response.json({});
}
