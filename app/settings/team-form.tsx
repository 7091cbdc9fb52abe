/** Who is in the team: their roles, an address to sign in with once, and taking somebody out. */
import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { useSubmit } from "react-router";
import type { Member } from "#server/store/team.ts";
import { Button } from "../ui/button.tsx";
import { Confirm } from "../ui/confirm.tsx";
import { FormErrors, INPUT, SelectField, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Select } from "../ui/select.tsx";
import { TEAM_ROLES, teamSchema } from "./schemas.ts";
import { answer, CARD, type Result, type SettingsData } from "./section.ts";

const ROLES = TEAM_ROLES.map((value) => ({
  value,
  label: value[0]!.toUpperCase() + value.slice(1),
}));

function Row({ one, own, manages }: { one: Member; own: boolean; manages: boolean }) {
  const submit = useSubmit();
  const send = (form: Record<string, string>) =>
    void submit({ what: "team", member: one.id, ...form }, { method: "post" });
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b py-2">
      <div className="min-w-40 flex-1">
        <div className="font-semibold">
          {one.name}
          {own && <span className="ml-1.5 font-normal text-ink-3">(you)</span>}
        </div>
        <div className="text-small break-all text-ink-2">{one.email}</div>
      </div>
      {manages ? (
        <>
          <Select
            label={`Role of ${one.name}`}
            value={one.role}
            options={ROLES}
            onValue={(role) => send({ do: "role", role })}
            className="w-auto"
          />
          <Button onClick={() => send({ do: "address" })}>Sign-in address</Button>
          {!own && (
            <Confirm
              title={`Take ${one.name} out of the team?`}
              about="They are signed out everywhere and cannot sign in any more. What they did goes on bearing their name."
              act="Take them out"
              onAct={() => send({ do: "leave" })}
              trigger={<Button>Remove</Button>}
            />
          )}
        </>
      ) : (
        <span className="text-small text-ink-2 capitalize">{one.role}</span>
      )}
    </li>
  );
}

export function TeamForm({ data: loaded, result }: { data: SettingsData; result: Result }) {
  const [form, fields] = useForm({
    id: "team",
    lastResult: answer(result, "team"),
    defaultValue: { role: "designer" },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: teamSchema }),
    shouldRevalidate: "onInput",
  });
  const address = result?.what === "team" ? result.address : undefined;
  return (
    <section aria-label="Team" className={CARD}>
      <h2 className="text-head">Team</h2>
      <FormErrors errors={form.errors} />
      {address && (
        <div role="status" className="rounded-md border border-leaf px-3 py-2.5">
          <p className="mb-1 font-semibold">
            With this address {address.name} signs in, once, within a day:
          </p>
          <input
            readOnly
            aria-label={`Sign-in address of ${address.name}`}
            value={address.url}
            className={INPUT}
            onFocus={(event) => event.currentTarget.select()}
          />
        </div>
      )}
      <ul>
        {loaded.team.map((one) => (
          <Row key={one.id} one={one} own={one.id === loaded.member.id} manages={loaded.manages} />
        ))}
      </ul>
      {loaded.manages && (
        <Form method="post" {...getFormProps(form)} className="flex flex-col gap-3">
          <h3 className="text-lead">A new member</h3>
          <input type="hidden" name="what" value="team" />
          <input type="hidden" name="do" value="invite" />
          <div className="grid grid-cols-[1fr_1fr_130px] items-start gap-3">
            <TextField meta={fields.name} label="Their name" />
            <TextField meta={fields.email} label="They sign in with" type="email" />
            <SelectField meta={fields.role} label="Role" options={ROLES} />
          </div>
          <div>
            <Button type="submit" primary>
              Add to the team
            </Button>
          </div>
        </Form>
      )}
    </section>
  );
}
