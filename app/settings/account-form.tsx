/** The person who is signed in. */
import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { Button } from "../ui/button.tsx";
import { TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { accountSchema } from "./schemas.ts";
import { answer, CARD, type Result, type SettingsData } from "./section.ts";

export function AccountForm({ data: loaded, result }: { data: SettingsData; result: Result }) {
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
      <h2 id="you" className="text-[20px]">
        You
      </h2>
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
