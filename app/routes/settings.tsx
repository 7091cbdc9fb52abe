import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { useEffect } from "react";
import { data } from "react-router";
import { z } from "zod";
import {
  COLOUR_ROLES,
  type ColourRole,
  FONTS,
  type FontName,
  HEX,
  type Palette,
  STANDARD_THEME,
  themeSchema,
} from "#core/theme/theme.ts";
import { DatabaseError } from "#server/db/database.ts";
import { required } from "#server/forms.ts";
import { sessionContext } from "#server/http/context.ts";
import {
  getSettings,
  mailAddressSchema,
  saveSetting,
  senderSchema,
  sendingSchema,
} from "#server/store/settings.ts";
import { hasPassword, passwordIsSet, setPassword, updateMember } from "#server/store/team.ts";
import { sentForm, submissionOf } from "../form.ts";
import { at } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { Field, FormErrors, INPUT, SelectField, TextAreaField, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Page, PageTitle } from "../ui/page.tsx";
import { useToast } from "../ui/toast.tsx";
import type { Route } from "./+types/settings.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Settings · Septima" }];

const accountSchema = z.object({
  name: required("Write your name."),
  email: mailAddressSchema,
  password: z.string().min(10, "At least 10 characters.").max(200).optional(),
  /** The one that it takes the place of. */
  current: z.string().max(200).optional(),
});
const size = z.coerce.number("Write a number.").int();
const hex = z.string().toLowerCase().regex(HEX, "Six digits after #.");
const ROLES = Object.entries(COLOUR_ROLES) as [ColourRole, string][];
/** The field of a role's dark colour. */
const darkName = (role: string) => `dark_${role}`;
const themeFormSchema = z.object({
  ...Object.fromEntries(
    ROLES.flatMap(([role]) => [
      [role, hex],
      [darkName(role), hex],
    ]),
  ),
  /** Whether the dark colours are used. */
  dark: z.literal("on").optional(),
  heading: themeSchema.shape.fonts.shape.heading,
  body: themeSchema.shape.fonts.shape.body,
  size: size.min(12, "At least 12.").max(24, "At most 24."),
});

const zones = () => Intl.supportedValuesOf("timeZone");

export async function loader({ context }: Route.LoaderArgs) {
  const { sql, member } = at(context);
  // Who has no password yet is not asked for one.
  const asks = await passwordIsSet(sql, member.id);
  return { settings: await getSettings(sql), member, asks, zones: zones() };
}

export async function action({ request, context }: Route.ActionArgs) {
  const { sql, member } = at(context);
  const form = await sentForm(request);
  const what = form.get("what");
  if (what === "sender") {
    const submission = await submissionOf(form, senderSchema);
    if (submission.status !== "success") return data({ what, result: submission.reply() }, 400);
    await saveSetting(sql, "sender", submission.value);
    return { what, result: submission.reply() };
  }
  if (what === "theme") {
    const submission = await submissionOf(form, themeFormSchema);
    if (submission.status !== "success") return data({ what, result: submission.reply() }, 400);
    const { theme } = await getSettings(sql);
    const { heading, body, size: bodySize, dark, ...colours } = submission.value;
    const chosen = colours as Record<string, string>;
    const palette = (nameOf: (role: string) => string) =>
      Object.fromEntries(ROLES.map(([role]) => [role, chosen[nameOf(role)]!])) as Palette;
    await saveSetting(sql, "theme", {
      ...theme,
      colours: palette((role) => role),
      dark: dark ? palette(darkName) : null,
      fonts: { heading: heading as FontName, body: body as FontName },
      type: { ...theme.type, body: bodySize },
    });
    return { what, result: submission.reply() };
  }
  if (what === "sending") {
    const submission = await submissionOf(form, sendingSchema);
    if (submission.status !== "success") return data({ what, result: submission.reply() }, 400);
    await saveSetting(sql, "sending", submission.value);
    return { what, result: submission.reply() };
  }
  const submission = await submissionOf(form, accountSchema);
  const hideFields = ["password", "current"];
  if (submission.status !== "success") {
    return data({ what: "account", result: submission.reply({ hideFields }) }, 400);
  }
  try {
    const { password, current = "", ...rest } = submission.value;
    if (password && !(await hasPassword(sql, member.id, current))) {
      const fieldErrors = { current: ["This is not your password."] };
      return data({ what: "account", result: submission.reply({ fieldErrors, hideFields }) }, 400);
    }
    await updateMember(sql, member.id, rest);
    if (password) await setPassword(sql, member.id, password, context.get(sessionContext));
  } catch (error) {
    if (!(error instanceof DatabaseError && error.code === "23505")) throw error;
    const fieldErrors = { email: ["Somebody else signs in with this address."] };
    return data({ what: "account", result: submission.reply({ fieldErrors, hideFields }) }, 400);
  }
  return { what: "account", result: submission.reply({ hideFields }) };
}

type Result = Route.ComponentProps["actionData"];

/** The answer to one of the page's forms. */
const answer = (result: Result, what: string) =>
  result?.what === what ? result.result : undefined;

const CARD = "flex flex-col gap-3 border-t pt-4";

function SenderForm({
  data: loaded,
  result,
}: {
  data: Route.ComponentProps["loaderData"];
  result: Result;
}) {
  const [form, fields] = useForm({
    id: "sender",
    lastResult: answer(result, "sender"),
    defaultValue: loaded.settings.sender,
    onValidate: ({ formData }) => parseWithZod(formData, { schema: senderSchema }),
    shouldRevalidate: "onInput",
  });
  return (
    <Form method="post" {...getFormProps(form)} className={CARD}>
      <h2 className="text-[20px]">Sender</h2>
      <FormErrors errors={form.errors} />
      <input type="hidden" name="what" value="sender" />
      <TextField meta={fields.brandName} label="Brand name" />
      <TextAreaField
        meta={fields.postalAddress}
        label="Postal address"
        hint="Shown in the footer of every email. Nothing can be sent without it."
      />
      <TextField meta={fields.fromName} label="From (name)" />
      <TextField meta={fields.fromAddress} label="From (address)" type="email" />
      <TextField
        meta={fields.replyTo}
        label="Replies go to"
        type="email"
        hint="Empty: to the from address."
      />
      <SelectField
        meta={fields.zone}
        label="Time zone"
        options={loaded.zones.map((zone) => ({ value: zone, label: zone.replaceAll("_", " ") }))}
      />
      <div>
        <Button type="submit" primary>
          Save the sender
        </Button>
      </div>
    </Form>
  );
}

function ThemeForm({
  data: loaded,
  result,
}: {
  data: Route.ComponentProps["loaderData"];
  result: Result;
}) {
  const { theme } = loaded.settings;
  const dark = theme.dark ?? STANDARD_THEME.dark!;
  const [form, fields] = useForm({
    id: "theme",
    lastResult: answer(result, "theme"),
    defaultValue: {
      ...theme.colours,
      ...Object.fromEntries(ROLES.map(([role]) => [darkName(role), dark[role]])),
      ...theme.fonts,
      dark: theme.dark ? "on" : undefined,
      size: String(theme.type.body),
    },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: themeFormSchema }),
    shouldRevalidate: "onInput",
  });
  const fontOptions = Object.entries(FONTS).map(([value, { label }]) => ({ value, label }));
  const colourFields = fields as unknown as Record<string, (typeof fields)["size"]>;
  const swatch = (name: string, label: string, value: string) => (
    <Field key={name} label={label} errors={colourFields[name]!.errors}>
      {(ids) => (
        <span className="flex items-center gap-2">
          <span
            aria-hidden
            className="size-6 flex-none rounded-full border border-line-strong"
            style={{ background: value }}
          />
          <input
            {...ids}
            name={name}
            defaultValue={value}
            className={`${INPUT} hex`}
            spellCheck={false}
          />
        </span>
      )}
    </Field>
  );
  return (
    <Form method="post" {...getFormProps(form)} className={CARD}>
      <h2 className="text-[20px]">Theme for new emails</h2>
      <input type="hidden" name="what" value="theme" />
      <div className="grid grid-cols-2 gap-3">
        {ROLES.flatMap(([role, label]) => [
          swatch(role, label, theme.colours[role]),
          swatch(darkName(role), `${label}, in the dark`, dark[role]),
        ])}
        <label className="col-span-2 flex items-center gap-2 text-[13px]">
          <input type="checkbox" name="dark" defaultChecked={theme.dark !== null} />
          Use the dark colours where a mail program shows dark
        </label>
        <SelectField meta={fields.heading} label="Font of headings" options={fontOptions} />
        <SelectField meta={fields.body} label="Font of words" options={fontOptions} />
        <TextField
          meta={fields.size as typeof fields.heading}
          label="Size of words, px"
          inputMode="numeric"
        />
      </div>
      <div>
        <Button type="submit" primary>
          Save the theme
        </Button>
      </div>
    </Form>
  );
}

function AccountForm({
  data: loaded,
  result,
}: {
  data: Route.ComponentProps["loaderData"];
  result: Result;
}) {
  const { name, email } = loaded.member;
  const [form, fields] = useForm({
    id: "account",
    lastResult: answer(result, "account"),
    defaultValue: { name, email },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: accountSchema }),
    shouldRevalidate: "onInput",
  });
  return (
    <Form method="post" {...getFormProps(form)} className={CARD}>
      <h2 className="text-[20px]">You</h2>
      <input type="hidden" name="what" value="account" />
      <TextField meta={fields.name} label="Your name" autoComplete="name" />
      <TextField
        meta={fields.email}
        label="You sign in with"
        type="email"
        autoComplete="username"
      />
      <TextField
        meta={fields.password}
        label="New password"
        type="password"
        autoComplete="new-password"
        hint="Empty: stays as it is. A new one signs you out everywhere else."
      />
      {loaded.asks && (
        <TextField
          meta={fields.current}
          label="The password you have now"
          type="password"
          autoComplete="current-password"
          hint="Asked for with a new one alone."
        />
      )}
      <div>
        <Button type="submit" primary>
          Save
        </Button>
      </div>
    </Form>
  );
}

function SendingForm({
  data: loaded,
  result,
}: {
  data: Route.ComponentProps["loaderData"];
  result: Result;
}) {
  const [form, fields] = useForm({
    id: "sending",
    lastResult: answer(result, "sending"),
    defaultValue: { bounceShare: String(loaded.settings.sending.bounceShare) },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: sendingSchema }),
    shouldRevalidate: "onInput",
  });
  return (
    <Form method="post" {...getFormProps(form)} className={CARD}>
      <h2 className="text-[20px]">Sending</h2>
      <input type="hidden" name="what" value="sending" />
      <TextField
        meta={fields.bounceShare}
        label="Pause and ask once more than this share bounces, %"
        inputMode="decimal"
        hint="Counted from 50 answers on. Mail services shut out senders with many bounces."
      />
      <div>
        <Button type="submit" primary>
          Save the limit
        </Button>
      </div>
    </Form>
  );
}

export default function SettingsPage({ loaderData, actionData }: Route.ComponentProps) {
  const say = useToast();
  useEffect(() => {
    if (actionData && actionData.result.status !== "error") say("Saved");
  }, [actionData, say]);
  return (
    <Page>
      <PageTitle title="Settings" />
      <div className="grid grid-cols-2 items-start gap-x-12 gap-y-8">
        <div className="flex flex-col gap-8">
          <SenderForm data={loaderData} result={actionData} />
          <SendingForm data={loaderData} result={actionData} />
        </div>
        <div className="flex flex-col gap-8">
          <ThemeForm data={loaderData} result={actionData} />
          <AccountForm data={loaderData} result={actionData} />
        </div>
      </div>
    </Page>
  );
}
