/** One segment: its rule, and whom it reaches while it is built. */
import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { useState } from "react";
import { data, Link, redirect } from "react-router";
import { z } from "zod";
import { parseJson } from "#core/json.ts";
import { EVERYBODY, isCircle, type Rule, ruleProblem, ruleSchema } from "#core/rules/index.ts";
import { vocabularyOf } from "#server/audience/vocabulary.ts";
import { worldOf } from "#server/audience/world.ts";
import { required } from "#server/forms.ts";
import { addSegment, changeSegment, getSegment, usesOf } from "#server/store/audience.ts";
import { submissionOf } from "../form.ts";
import { removing } from "../removed.ts";
import { at } from "../request.ts";
import { draftGroupOf, ruleOf } from "../rules/draft.ts";
import { ReachPanel } from "../rules/reach-panel.tsx";
import { RuleBuilder } from "../rules/rule-builder.tsx";
import { Button } from "../ui/button.tsx";
import { FormErrors, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import type { Route } from "./+types/people.segment.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Segment · Septima" }];

const NEW = "new";

const ruleText = z.string().transform((text, ctx): Rule => {
  const rule = ruleSchema.safeParse(parseJson(text));
  if (rule.success) return rule.data;
  ctx.addIssue(rule.error.issues[0]?.message ?? "This rule is not complete.");
  return z.NEVER;
});
const schema = z.discriminatedUnion("do", [
  z.object({
    do: z.literal("save"),
    name: required("Give the segment a name."),
    rule: ruleText,
  }),
  z.object({ do: z.literal("remove") }),
]);

export async function loader({ params, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const segment = params.segment === NEW ? null : await getSegment(sql, params.segment);
  if (!segment && params.segment !== NEW) throw data("This segment is gone.", { status: 404 });
  return {
    id: params.segment,
    name: segment?.name ?? "",
    rule: segment?.rule ?? EVERYBODY,
    vocabulary: await vocabularyOf(sql),
    uses: segment ? await usesOf(sql, { kind: "segment", id: segment.id }) : [],
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { sql, now, services } = at(context);
  const id = params.segment;
  const refuse = (problem: string) => data(submission.reply({ formErrors: [problem] }), 409);
  if (submission.value.do === "remove") {
    const uses = await usesOf(sql, { kind: "segment", id });
    if (uses.length > 0) return refuse(`It is used by ${uses.join(", ")}.`);
    const label = `The segment “${(await getSegment(sql, id))?.name ?? ""}”`;
    return removing(context, "segments", id, label, "/people/segments");
  }
  const { name, rule } = submission.value;
  const world = await worldOf(sql, services.clock, [rule]);
  const problem = ruleProblem(rule, world);
  if (problem) return refuse(problem);
  if (id === NEW) {
    await addSegment(sql, name, rule, now);
  } else {
    if (isCircle(id, rule, world.segments)) {
      return refuse("It would hold itself, by way of another segment it names.");
    }
    await changeSegment(sql, id, name, rule);
  }
  return redirect("/people/segments");
}

export default function Segment({ loaderData, actionData }: Route.ComponentProps) {
  const { name, rule: stored, vocabulary, uses, id } = loaderData;
  const [draft, setDraft] = useState(() => draftGroupOf(stored));
  const rule = ruleOf(draft);
  const [form, fields] = useForm({
    lastResult: actionData,
    defaultValue: { name },
    onValidate: ({ formData }) => parseWithZod(formData, { schema }),
  });
  return (
    <main className="mx-auto grid max-w-[1280px] grid-cols-[1fr_330px] gap-12 px-10 py-6 max-md:grid-cols-[minmax(0,1fr)] max-md:gap-8 max-md:px-4">
      <Form method="post" {...getFormProps(form)}>
        <div className="mb-4 flex flex-wrap items-end gap-3">
          <TextField meta={fields.name} label="Name of the segment" className="w-80" />
          <Button type="submit" name="do" value="save" primary>
            Save the segment
          </Button>
          <Link to="/people/segments" className="link py-1.5">
            Discard changes
          </Link>
        </div>
        <FormErrors errors={[...(form.errors ?? []), ...(fields.rule.errors ?? [])]} />
        <input type="hidden" name="rule" value={JSON.stringify(rule)} />
        <RuleBuilder draft={draft} vocabulary={vocabulary} onChange={setDraft} />
        {id !== NEW && (
          <div className="mt-8 border-t pt-4">
            {uses.length > 0 ? (
              <p className="text-ink-2">Used by {uses.join(", ")}.</p>
            ) : (
              <Button type="submit" name="do" value="remove" formNoValidate>
                Delete this segment
              </Button>
            )}
          </div>
        )}
      </Form>
      <aside aria-label="Reach" className="border-l pl-8">
        <ReachPanel rule={rule} />
      </aside>
    </main>
  );
}
