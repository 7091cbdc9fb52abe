/** The person who is signed in. */
import { useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { TextField } from "../ui/field.tsx";
import { accountSchema } from "./schemas.ts";
import { answer, type Result, type SettingsData } from "./section.ts";
import { SectionForm } from "./section-form.tsx";

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
    <SectionForm what="account" title="You" save="Save" form={form}>
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
    </SectionForm>
  );
}
