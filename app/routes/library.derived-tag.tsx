/** One derived tag: its cases in order with whom each reaches, the last resort, and what it says to somebody. */
import { Plus } from "lucide-react";
import { useState } from "react";
import { data, Link, redirect } from "react-router";
import { z } from "zod";
import {
  alternativesOf,
  DERIVED_KINDS,
  type DerivedTag,
  derivedSchema,
  isDerivedCircle,
  type PictureValue,
} from "#core/derived/index.ts";
import { parseJson } from "#core/json.ts";
import type { Picture } from "#core/kinds/kind.ts";
import { fallbacksOf, fixedValues, plainContext } from "#core/merge/index.ts";
import { ruleProblem } from "#core/rules/index.ts";
import { worldOf } from "#server/audience/world.ts";
import { stepContact } from "#server/store/contacts.ts";
import { addDerived, changeDerived, derivedUses, getDerived } from "#server/store/derived.ts";
import { getPictures } from "#server/store/pictures.ts";
import { getSettings } from "#server/store/settings.ts";
import { tagFields } from "#server/store/tag-values.ts";
import { ReaderSearch } from "../compose/sheets/strip.tsx";
import { submissionOf } from "../form.ts";
import { CaseRow, OtherwiseRow } from "../library/case-row.tsx";
import { casesReach, conditionsOfTag, useDerivedDraft } from "../library/derived-draft.ts";
import { KIND_NAMES } from "../library/derived-kinds.ts";
import { Said } from "../library/said.tsx";
import { choiceOf } from "../reader-choice.ts";
import { removing } from "../removed.ts";
import { at } from "../request.ts";
import { useWhoSees } from "../rules/who-sees.ts";
import { Button } from "../ui/button.tsx";
import { Field, FormErrors, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Page, PageTitle } from "../ui/page.tsx";
import { Select } from "../ui/select.tsx";
import { people } from "../ui/words.ts";
import type { Route } from "./+types/library.derived-tag.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Derived tag · Septima" }];

const NEW = "new";
const schema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("save"), tag: z.string() }),
  z.object({ do: z.literal("remove") }),
]);

export async function loader({ params, context }: Route.LoaderArgs) {
  const { sql, services } = at(context);
  const all = await getDerived(sql);
  const found = params.tag === NEW ? null : (all.get(params.tag) ?? null);
  if (!found && params.tag !== NEW) throw data("This derived tag is gone.", { status: 404 });
  const { sender } = await getSettings(sql);
  const world = await worldOf(sql, services.clock);
  return {
    id: params.tag,
    found,
    others: [...all.values()],
    uses: (await derivedUses(sql)).get(params.tag) ?? [],
    pictures: await getPictures(sql, found ? picturesOfTag(found) : []),
    fields: [...tagFields(world).values()],
    reader: await choiceOf(sql, await stepContact(sql, null, "next")),
    fixed: fixedValues(
      { name: sender.brandName, postalAddress: sender.postalAddress },
      "",
      world.now.today,
    ),
  };
}

/** The pictures a tag chooses among. */
const picturesOfTag = (tag: DerivedTag): string[] =>
  tag.kind === "picture"
    ? alternativesOf<PictureValue>(tag).flatMap(({ value }) => value.picture ?? [])
    : [];

/** What is wrong, each with the case it is in: -1 for the last resort, null for the tag itself. */
type Problems = { at: number | null; message: string }[];

export async function action({ request, params, context }: Route.ActionArgs) {
  const { sql, services, now } = at(context);
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data({ problems: [] as Problems }, 400);
  const id = params.tag;
  const refuse = (problems: Problems) => data({ problems }, 409);
  if (submission.value.do === "remove") {
    const uses = (await derivedUses(sql)).get(id) ?? [];
    if (uses.length > 0)
      return refuse([{ at: null, message: `It is used by ${uses.join(", ")}.` }]);
    const label = `The derived tag “${(await getDerived(sql)).get(id)?.name ?? ""}”`;
    return removing(context, "derived_tags", id, label, "/library/derived");
  }
  const read = derivedSchema.safeParse(parseJson(submission.value.tag));
  if (!read.success) {
    return refuse(
      read.error.issues.map(({ path, message }) => ({
        at: path[0] === "cases" ? Number(path[1]) : path[0] === "otherwise" ? -1 : null,
        message,
      })),
    );
  }
  const rules = read.data.cases.map(({ rule }) => rule);
  const world = await worldOf(sql, services.clock, rules);
  const wrong = read.data.cases.flatMap(({ rule }, i) => {
    const message = ruleProblem(rule, world);
    return message ? [{ at: i, message }] : [];
  });
  if (wrong.length > 0) return refuse(wrong);
  if (id === NEW) await addDerived(sql, read.data, now);
  else {
    const tag = { ...read.data, id };
    if (isDerivedCircle(tag, await getDerived(sql))) {
      return refuse([
        { at: null, message: "It would name itself, by way of another derived tag." },
      ]);
    }
    await changeDerived(sql, tag);
  }
  return redirect("/library/derived");
}

export default function DerivedTagPage({ loaderData, actionData }: Route.ComponentProps) {
  const { found, fields, others, uses, id, fixed } = loaderData;
  const [pictures, setPictures] = useState(loaderData.pictures);
  const onPicture = (picture: Picture) => setPictures((before) => [...before, picture]);
  const dates = fields.filter(({ type }) => type === "date").map((one) => `contact:${one.id}`);
  const draft = useDerivedDraft(id, found, dates);
  const { made, cases } = draft;
  const { id: _id, ...body } = made;
  const [reader, setReader] = useState(loaderData.reader);
  const problems = actionData?.problems ?? [];
  const of = (where: number | null) =>
    problems.filter((one) => one.at === where).map(({ message }) => message);
  const derived = new Map([...others, made].map((one) => [one.id, one]));
  const whoSees = useWhoSees(null, conditionsOfTag(made, derived), reader?.id ?? null);
  const falls = casesReach(cases, whoSees);
  const shared = { kind: made.kind, fields, pictures, onPicture };
  return (
    <Page wide>
      <PageTitle
        title={found?.name ?? "A new derived tag"}
        about="The first case whose rule holds gives the value."
      />
      <div className="grid grid-cols-[1fr_280px] gap-12 max-md:grid-cols-[minmax(0,1fr)] max-md:gap-8">
        <Form method="post">
          <input type="hidden" name="tag" value={JSON.stringify(body)} />
          <FormErrors errors={of(null)} />
          <div className="mb-5 flex flex-wrap items-end gap-3">
            <Field label="Name">
              {(own) => (
                <input
                  {...own}
                  value={made.name}
                  onChange={(event) => draft.setName(event.target.value)}
                  className={INPUT}
                />
              )}
            </Field>
            <Field label="Kind of value">
              {(own) => (
                <Select
                  {...own}
                  value={made.kind}
                  disabled={found !== null}
                  options={DERIVED_KINDS.map((one) => ({ value: one, label: KIND_NAMES[one] }))}
                  onValue={(kind) => kind && draft.setKind(kind)}
                />
              )}
            </Field>
          </div>
          <ol aria-label="Cases" className="border-t">
            {cases.map((one, i) => (
              <CaseRow
                key={one.key}
                {...shared}
                one={one}
                i={i}
                last={i === cases.length - 1}
                whoSees={whoSees}
                people={falls && falls.each[i]!}
                errors={of(i)}
                onChange={(to) => draft.change(i, to)}
                onMove={(by) => draft.move(i, by)}
                onTakeOut={() => draft.takeOut(i)}
              />
            ))}
            <OtherwiseRow
              {...shared}
              value={draft.otherwise}
              people={falls && falls.each.at(-1)!}
              errors={of(-1)}
              onChange={draft.setOtherwise}
            />
          </ol>
          <Button className="mt-3" onClick={draft.add}>
            <Plus className="size-3.5" /> Case
          </Button>
          <div className="mt-6 flex items-center gap-3">
            <Button
              type="submit"
              name="do"
              value="save"
              primary
              disabled={cases.some(({ rule }) => !rule)}
            >
              Save the derived tag
            </Button>
            <Link to="/library/derived" className="link">
              Discard changes
            </Link>
            {found && uses.length === 0 && (
              <Button type="submit" name="do" value="remove">
                Delete
              </Button>
            )}
          </div>
          {uses.length > 0 && <p className="mt-3 text-ink-2">Used by {uses.join(", ")}.</p>}
        </Form>
        <aside aria-label="Preview as" className="border-l pl-8 max-md:border-l-0 max-md:pl-0">
          <h2 className="mb-1 text-title">Preview as</h2>
          <ReaderSearch reader={reader} onReader={setReader} />
          <p className="mt-3 text-small text-ink-2">Value</p>
          <Said
            made={made}
            reader={{
              values: { ...fixed, ...reader?.values },
              bits: whoSees?.bits ?? "",
              token: "",
            }}
            context={{
              ...plainContext("en-GB"),
              conditions: whoSees?.conditions ?? [],
              derived,
              fallbacks: fallbacksOf(fields),
            }}
            pictures={pictures}
          />
          {falls && falls.several > 0 && (
            <p className="mt-4 text-small text-ink-2">
              More than one case fits {people(falls.several)}: the first counts.
            </p>
          )}
        </aside>
      </div>
    </Page>
  );
}
