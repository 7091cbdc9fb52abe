/** Everybody: the contacts table, with what can be done with those picked. */
import { getFormProps, type SubmissionResult, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { Download, ListFilter, UserPlus } from "lucide-react";
import { useEffect, useState } from "react";
import { data, Link, redirect, useNavigate } from "react-router";
import { z } from "zod";
import { readAddress } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import { describe } from "#core/rules/index.ts";
import { worldOf } from "#server/audience/world.ts";
import { addList, addToList, takeOffList } from "#server/store/audience.ts";
import { addContacts, knownAddresses, standardValues } from "#server/store/contacts.ts";
import { recallErased } from "#server/store/erasing.ts";
import { countMailable } from "#server/store/readers.ts";
import { ruleOfView, rulesOfView, viewSchema } from "#server/store/views.ts";
import { submissionOf } from "../form.ts";
import { ContactTable } from "../people/contact-table.tsx";
import { PickedBar } from "../people/picked-bar.tsx";
import { paramsOf } from "../people/view-params.ts";
import { at, late } from "../request.ts";
import { RuleDialog } from "../rules/rule-dialog.tsx";
import { Button, Buttonlike } from "../ui/button.tsx";
import { Dialog } from "../ui/dialog.tsx";
import { FormErrors, TextField } from "../ui/field.tsx";
import { finderOf } from "../ui/finder.ts";
import { Form } from "../ui/form.tsx";
import { Later } from "../ui/later.tsx";
import { Empty, Page, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { Select } from "../ui/select.tsx";
import { useToast } from "../ui/toast.tsx";
import { count, people } from "../ui/words.ts";
import type { Route } from "./+types/people.contacts.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

const ids = z
  .string()
  .transform((text) => text.split(",").map(Number))
  .pipe(z.array(z.number().int().positive()).min(1, "Pick somebody first."));
const schema = z.discriminatedUnion("do", [
  z.object({
    do: z.literal("add"),
    email: z
      .string("Write a mail address.")
      .refine((text) => readAddress(text) !== null, "This is not a mail address."),
    /** Set once somebody was told that there is one like it. */
    anyway: z.coerce.boolean().default(false),
  }),
  z.object({ do: z.literal("list"), ids, list: z.string().min(1, "Choose a list.") }),
  viewSchema.extend({
    do: z.literal("viewList"),
    /** How many the person saw that it would be. */
    count: z.coerce.number().int().min(1),
    target: z.string().min(1, "Choose a list."),
  }),
  z.object({
    do: z.literal("newList"),
    ids,
    name: z.string().trim().min(1).max(LIMITS.nameLength),
  }),
  z.object({ do: z.literal("off"), ids, list: z.string().min(1) }),
]);

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services, sql } = at(context);
  const params = Object.fromEntries(new URL(request.url).searchParams);
  const view = viewSchema.catch(viewSchema.parse({})).parse(params);
  const rule = ruleOfView(view);
  const world = await worldOf(sql, services.clock, rulesOfView(view));
  const { token, total } = await services.views.open(sql, view, world);
  const fields = [...world.fields.values()];
  return {
    view: {
      ...view,
      token,
      total,
      query: new URLSearchParams(paramsOf(view)).toString(),
    },
    rule,
    words: rule && describe(rule, world),
    fields,
    mailable: late(context, () => countMailable(sql)),
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data({ result: submission.reply(), said: "" }, 400);
  const { sql, now, services } = at(context);
  const asked = submission.value;
  switch (asked.do) {
    case "add": {
      const known = await knownAddresses(sql, [asked.email]);
      const address = readAddress(asked.email)!;
      if (known.includes(address.address) || (known.length > 0 && !asked.anyway)) {
        const email = [`There is ${known.join(" and ")} already.`];
        const anyway = !known.includes(address.address);
        return data(
          { result: submission.reply({ fieldErrors: { email } }), said: "", anyway },
          409,
        );
      }
      const [id] = await addContacts(sql, [
        { email: asked.email, values: await standardValues(sql), createdAt: now },
      ]);
      await recallErased(sql, [id!]);
      return redirect(`/people/contacts/${id}`);
    }
    case "list": {
      const added = await addToList(sql, asked.list, asked.ids);
      return data({ result: submission.reply(), said: `${people(added)} put on the list.` });
    }
    case "viewList": {
      const { do: _, count: seen, target, ...view } = asked;
      const _rule = ruleOfView(view);
      const world = await worldOf(sql, services.clock, rulesOfView(view));
      const everybody = await services.views.now(sql, view, world);
      if (everybody.length !== seen) {
        const said = `Nobody was put on the list: there are ${people(everybody.length)} in this view by now, not ${count(seen)}.`;
        return data({ result: submission.reply(), said }, 409);
      }
      const added = await addToList(sql, target, everybody);
      return data({ result: submission.reply(), said: `${people(added)} put on the list.` });
    }
    case "newList":
      await addList(sql, asked.name, asked.ids, now);
      return data({ result: submission.reply(), said: `“${asked.name}” is a list now.` });
    case "off":
      await takeOffList(sql, asked.list, asked.ids);
      return data({ result: submission.reply(), said: "Removed from the list." });
  }
}

// What was refused is often not as it was: show it as it is.
export const shouldRevalidate = () => true;

/** Columns shown at first: as many as have room. */
const SHOWN = 6;

function AddContact({
  result,
  anyway,
}: {
  result?: SubmissionResult<string[]>;
  /** The address is like another's, but not the same by the standards. */
  anyway: boolean;
}) {
  const [form, fields] = useForm({
    lastResult: result,
    onValidate: ({ formData }) => parseWithZod(formData, { schema }),
  });
  return (
    <Form method="post" {...getFormProps(form)} className="flex flex-col gap-3">
      <TextField meta={fields.email} label="Email address" autoFocus />
      <FormErrors errors={form.errors} />
      {anyway && (
        <>
          <input type="hidden" name="anyway" value="1" />
          <p className="text-small text-ink-2">
            The addresses differ in upper and lower case or accents only.
          </p>
        </>
      )}
      <div>
        <Button type="submit" name="do" value="add" primary>
          {anyway ? "Add anyway: they are two mailboxes" : "Add this person"}
        </Button>
      </div>
    </Form>
  );
}

/** One of the things a view can be narrowed to. */
function Only({
  name,
  label,
  any,
  value,
  of,
}: {
  name: string;
  label: string;
  /** What stands for no choice. */
  any: string;
  value: string;
  of: string;
}) {
  return (
    <Select
      name={name}
      label={label}
      initial={value}
      none={any}
      options={[]}
      finder={finderOf(of)}
      className="w-40"
    />
  );
}

export default function Contacts({ loaderData, actionData }: Route.ComponentProps) {
  const { view, rule, words, fields, mailable } = loaderData;
  const navigate = useNavigate();
  const [picked, setPicked] = useState<ReadonlySet<number>>(new Set());
  const say = useToast();
  const said = actionData?.said;
  // biome-ignore lint/correctness/useExhaustiveDependencies: said once for each answer
  useEffect(() => {
    if (!said) return;
    say(said);
    setPicked(new Set());
  }, [actionData]);
  const shown = fields.slice(0, SHOWN);
  const href = (change: Record<string, string>) =>
    `?${new URLSearchParams({ ...paramsOf(view), ...change })}`;
  const narrowed = Boolean(view.search || view.list || view.segment || view.rule);
  return (
    <Page wide>
      <PageTitle
        title="Everybody"
        about={
          <>
            {people(view.total)}
            {narrowed ? " in this view" : ""};{" "}
            <Later of={mailable}>{(known) => count(known)}</Later> of all can be mailed.
          </>
        }
      >
        <SearchForm label="Search contacts" hint="Name, address, anything" search={view.search}>
          {view.sort !== "email" && <input type="hidden" name="sort" value={view.sort} />}
          {view.down && <input type="hidden" name="down" value="1" />}
          {view.rule && <input type="hidden" name="rule" value={view.rule} />}
          <Only name="list" label="Only one list" any="Any list" value={view.list} of="lists" />
          <Only
            name="segment"
            label="Only one segment"
            any="Any segment"
            value={view.segment}
            of="segments"
          />
        </SearchForm>
        <RuleDialog
          title="Only those for whom"
          rule={rule}
          use="Show them"
          onUse={(next) => navigate(href({ rule: JSON.stringify(next) }))}
          trigger={
            <Buttonlike type="button" aria-label="Only those for whom a rule holds">
              <ListFilter className="size-4" /> Rule
            </Buttonlike>
          }
        />
        <Buttonlike asChild>
          <Link to={`/people/export.csv?${view.query}`} reloadDocument>
            <Download className="size-4" /> CSV
          </Link>
        </Buttonlike>
        <Dialog
          title="Add a person"
          trigger={
            <Buttonlike type="button" primary>
              <UserPlus className="size-4" /> Add
            </Buttonlike>
          }
        >
          <AddContact
            result={actionData?.result}
            anyway={
              actionData !== undefined && "anyway" in actionData && actionData.anyway === true
            }
          />
        </Dialog>
      </PageTitle>
      {words && (
        <p className="mb-1 text-small" data-filter>
          <span className="text-ink-2">Only those for whom: </span>
          {words}{" "}
          <Link to={href({ rule: "" })} className="link ml-1">
            Show everybody
          </Link>
        </p>
      )}
      <PickedBar
        view={view}
        picked={picked}
        params={paramsOf(view)}
        onNobody={() => setPicked(new Set())}
      />
      {view.total === 0 ? (
        narrowed ? (
          <Empty title="No matches">Try fewer letters, or another list.</Empty>
        ) : (
          <Empty title="No contacts yet">
            <Link to="/people/imports" className="link">
              Import a file
            </Link>
            , or add somebody by hand.
          </Empty>
        )
      ) : (
        <ContactTable
          view={view}
          fields={shown}
          picked={picked}
          onPick={(ids, on) =>
            setPicked((before) => {
              const after = new Set(before);
              for (const id of ids) on ? after.add(id) : after.delete(id);
              return after;
            })
          }
          sortHref={(field) =>
            href({ sort: field, down: view.sort === field && !view.down ? "1" : "" })
          }
        />
      )}
    </Page>
  );
}
