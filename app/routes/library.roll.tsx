/** One code roll: what it says, its codes, and who got which. */
import { randomInt } from "node:crypto";
import { data } from "react-router";
import { z } from "zod";
import { makeCodes, patternProblem, readCodes } from "#core/codes/index.ts";
import { LIMITS } from "#core/limits.ts";
import { required } from "#server/forms.ts";
import {
  addCodes,
  changeRoll,
  getRoll,
  givenCodes,
  isGiven,
  nextCodes,
} from "#server/store/codes.ts";
import { submissionOf } from "../form.ts";
import { removing } from "../removed.ts";
import { at, zoneOf } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { DayInput } from "../ui/day-field.tsx";
import { Field, FileField, FormErrors, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Figure, Page, PageTitle } from "../ui/page.tsx";
import { Table } from "../ui/table.tsx";
import { ago, count, counted } from "../ui/words.ts";
import type { Route } from "./+types/library.roll.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Code roll · Septima" }];

const SHOWN = 8;
const GIVEN = 50;
const whole = (most: number) => z.coerce.number("Write a whole number.").int().min(0).max(most);
const schema = z.discriminatedUnion("do", [
  z.object({
    do: z.literal("save"),
    name: required("Give the roll a name."),
    emptyText: z.string().trim().max(LIMITS.lineLength).default(""),
    warnAt: whole(10_000_000).default(0),
    expires: z.union([z.literal(""), z.iso.date("Write a date.")]).default(""),
    again: z.coerce.boolean().default(false),
  }),
  z.object({
    do: z.literal("file"),
    codes: z
      .instanceof(File, { message: "Choose a file." })
      .refine((file) => file.size > 0, "Choose a file.")
      .refine((file) => file.size <= LIMITS.codesBytes, "This file is too large."),
  }),
  z.object({
    do: z.literal("make"),
    pattern: required("Write a pattern."),
    number: whole(LIMITS.codesAtOnce).refine((n) => n > 0, "How many?"),
  }),
  z.object({ do: z.literal("remove") }),
]);

async function rollOf(context: Route.LoaderArgs["context"], id: string) {
  const roll = await getRoll(at(context).sql, id);
  if (!roll) throw data("This code roll is gone.", { status: 404 });
  return roll;
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const { sql, now } = at(context);
  const roll = await rollOf(context, params.roll);
  const zone = await zoneOf(context);
  return {
    roll,
    next: await nextCodes(sql, roll.id, SHOWN),
    given: (await givenCodes(sql, roll.id, GIVEN)).map((one) => ({
      ...one,
      when: ago(one.takenAt, now, zone),
    })),
  };
}

/** What became of a file, in a sentence. */
function told(
  { blanks, repeated, header, wrong }: ReturnType<typeof readCodes>,
  added: number,
  read: number,
): string {
  const parts = [`${counted(added, "code")} added.`];
  if (read > added) parts.push(`${counted(read - added, "was", "were")} on the roll already.`);
  if (header) parts.push(`“${header}” was taken for the name of the column.`);
  if (repeated) parts.push(`${count(repeated)} stood there more than once.`);
  if (blanks) parts.push(`${counted(blanks, "line was", "lines were")} empty.`);
  for (const { line, text } of wrong) parts.push(`Line ${line} is no code: “${text}”.`);
  return parts.join(" ");
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const { sql, services } = at(context);
  const submission = await submissionOf(request, schema);
  const say = (said: string) => data({ result: submission.reply({ resetForm: true }), said });
  if (submission.status !== "success") return data({ result: submission.reply(), said: "" }, 400);
  const roll = await rollOf(context, params.roll);
  const asked = submission.value;
  const refuse = (fieldErrors: Record<string, string[]>) =>
    data({ result: submission.reply({ fieldErrors }), said: "" }, 409);
  switch (asked.do) {
    case "save":
      await changeRoll(sql, roll.id, { ...asked, expires: asked.expires || null });
      return say("Saved.");
    case "file": {
      const read = readCodes(await asked.codes.text());
      if (read.codes.length === 0) return refuse({ codes: ["There is no code in this file."] });
      if (read.codes.length > LIMITS.codesAtOnce) {
        return refuse({ codes: [`At most ${counted(LIMITS.codesAtOnce, "code")} at once.`] });
      }
      return say(told(read, await addCodes(sql, roll.id, read.codes), read.codes.length));
    }
    case "make": {
      const problem = patternProblem(asked.pattern, asked.number);
      if (problem) return refuse({ pattern: [problem] });
      const added = await services.database.tx(async (tx) => {
        let made = 0;
        // What the roll has already is made up for.
        for (let tries = 0; made < asked.number && tries < 10; tries++) {
          made += await addCodes(
            tx,
            roll.id,
            makeCodes(asked.pattern, asked.number - made, randomInt),
          );
        }
        return made;
      });
      return say(`${counted(added, "code")} made.`);
    }
    case "remove":
      if (await isGiven(sql, roll.id)) {
        const formErrors = ["Codes of this roll have been given to readers, so it stays."];
        return data({ result: submission.reply({ formErrors }), said: "" }, 409);
      }
      return removing(
        context,
        "code_rolls",
        roll.id,
        `The code roll “${roll.name}”`,
        "/library/rolls",
      );
  }
}

export default function Roll({ loaderData, actionData }: Route.ComponentProps) {
  const { roll, next, given } = loaderData;
  const errors = (actionData?.result.error ?? {}) as Record<string, string[]>;
  return (
    <Page wide>
      <PageTitle title={roll.name} about="One code for each reader of a campaign, never twice." />
      <FormErrors errors={errors[""]} />
      {actionData?.said && (
        <p role="status" className="mb-3 text-leaf" data-said>
          {actionData.said}
        </p>
      )}
      <div className="mb-6 flex gap-12">
        <Figure value={count(roll.left)} label="left" />
        <Figure value={count(roll.all - (roll.again ? 0 : roll.left))} label="given" />
        <Figure value={count(roll.all)} label="in all" />
      </div>
      <div className="grid grid-cols-[1fr_320px] gap-12 max-md:grid-cols-[minmax(0,1fr)] max-md:gap-8">
        <div>
          <h2 className="mb-2 text-head">Add codes</h2>
          <div className="mb-6 grid grid-cols-2 gap-8 max-md:grid-cols-[minmax(0,1fr)]">
            <Form method="post" encType="multipart/form-data" className="flex flex-col gap-2">
              <FileField
                label="From a file"
                errors={errors.codes}
                hint="TXT or CSV, one code on each line."
                name="codes"
                accept=".txt,.csv,text/plain,text/csv"
              />
              <div>
                <Button type="submit" name="do" value="file">
                  Add the file’s codes
                </Button>
              </div>
            </Form>
            <Form method="post" className="flex flex-col gap-2">
              <div className="grid grid-cols-[1fr_90px] gap-2">
                <Field
                  label="By a pattern"
                  errors={errors.pattern}
                  hint="# a digit, @ a letter, * either."
                >
                  {(own) => (
                    <input {...own} name="pattern" defaultValue="LARK-####-@@@" className={INPUT} />
                  )}
                </Field>
                <Field label="How many" errors={errors.number}>
                  {(own) => (
                    <input
                      {...own}
                      name="number"
                      inputMode="numeric"
                      defaultValue="1000"
                      className={INPUT}
                    />
                  )}
                </Field>
              </div>
              <div>
                <Button type="submit" name="do" value="make">
                  Make codes
                </Button>
              </div>
            </Form>
          </div>
          {next.length > 0 && (
            <p className="mb-6 text-small text-ink-2">
              Next on the roll: <span className="font-mono">{next.join(" · ")}</span>
            </p>
          )}
          <h2 className="mb-2 text-head">Given</h2>
          {given.length === 0 ? (
            <p className="text-ink-3">None yet. Previews and tests show a sample and take none.</p>
          ) : (
            <Table
              label="Codes given"
              rows={given}
              keyOf={(row) => row.code}
              columns={[
                { title: "Code", cell: (row) => <span className="font-mono">{row.code}</span> },
                { title: "To", cell: (row) => row.email ?? "somebody erased" },
                { title: "Campaign", cell: (row) => row.campaign },
                { title: "When", cell: (row) => row.when },
              ]}
            />
          )}
        </div>
        <Form method="post" className="flex flex-col gap-3" key={JSON.stringify(roll)}>
          <Field label="Name" errors={errors.name}>
            {(own) => <input {...own} name="name" defaultValue={roll.name} className={INPUT} />}
          </Field>
          <Field label="When it is empty, readers see" errors={errors.emptyText}>
            {(own) => (
              <input {...own} name="emptyText" defaultValue={roll.emptyText} className={INPUT} />
            )}
          </Field>
          <Field label="Warn when fewer are left than" errors={errors.warnAt}>
            {(own) => (
              <input
                {...own}
                name="warnAt"
                inputMode="numeric"
                defaultValue={roll.warnAt}
                className={INPUT}
              />
            )}
          </Field>
          <Field label="Valid until" errors={errors.expires} hint="Empty: without an end.">
            {(own) => (
              <DayInput
                {...own}
                label="Valid until"
                isoName="expires"
                initial={roll.expires ?? ""}
              />
            )}
          </Field>
          <Checkbox
            label="Codes may be given more than once"
            name="again"
            value="1"
            defaultChecked={roll.again}
          />
          <div className="flex gap-2">
            <Button type="submit" name="do" value="save" primary>
              Save
            </Button>
            <Button type="submit" name="do" value="remove" formNoValidate>
              Delete the roll
            </Button>
          </div>
        </Form>
      </div>
    </Page>
  );
}
