import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { data, redirect, useSearchParams } from "react-router";
import { z } from "zod";
import { networkContext, servicesContext } from "#server/http/context.ts";
import { mailAddressSchema } from "#server/store/settings.ts";
import { checkPassword, createSession } from "#server/store/team.ts";
import { submissionOf } from "../form.ts";
import { safePath, sessionHeader } from "../session.ts";
import { Button } from "../ui/button.tsx";
import { FormErrors, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Wordmark } from "../ui/wordmark.tsx";
import type { Route } from "./+types/sign-in.ts";

const schema = z.object({
  email: mailAddressSchema,
  password: z.string("Write your password.").max(200),
  next: z.string().optional(),
});

export const meta = () => [{ title: "Sign in · Septima" }];

export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success")
    return data(submission.reply({ hideFields: ["password"] }), 400);
  const { database, clock, guesses } = context.get(servicesContext);
  const { email, password, next } = submission.value;
  const [account, network] = [email.toLowerCase(), context.get(networkContext)];
  const wait = guesses.wait(account, network);
  if (wait > 0) {
    const formErrors = [
      `Too many wrong passwords. Try again in ${Math.ceil(wait / 1_000)} seconds.`,
    ];
    return data(submission.reply({ formErrors, hideFields: ["password"] }), 429);
  }
  const member = await checkPassword(database.sql, email, password);
  guesses.made(account, network, member !== null);
  if (!member) {
    const formErrors = ["This address and password do not go together."];
    return data(submission.reply({ formErrors, hideFields: ["password"] }), 400);
  }
  const session = await createSession(database.sql, member.id, clock.now());
  return redirect(safePath(next ?? null), { headers: await sessionHeader(session, context) });
}

export default function SignIn({ actionData }: Route.ComponentProps) {
  const [params] = useSearchParams();
  const [form, fields] = useForm({
    lastResult: actionData,
    onValidate: ({ formData }) => parseWithZod(formData, { schema }),
    shouldRevalidate: "onInput",
  });
  return (
    <main className="mx-auto mt-[16vh] w-[340px]">
      <Wordmark />
      <h1 className="mt-6 mb-4 text-display">Sign in</h1>
      <Form method="post" {...getFormProps(form)} className="flex flex-col gap-3">
        <FormErrors errors={form.errors} />
        {params.has("used") && (
          <p className="text-ink-2">
            That address has been used or is too old. Each start of the application prints a new
            one.
          </p>
        )}
        <TextField meta={fields.email} label="Email address" type="email" autoComplete="username" />
        <TextField
          meta={fields.password}
          label="Password"
          type="password"
          autoComplete="current-password"
        />
        <input type="hidden" name="next" value={params.get("next") ?? ""} />
        <Button type="submit" primary className="mt-1 w-full">
          Sign in
        </Button>
      </Form>
    </main>
  );
}
