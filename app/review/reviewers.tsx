/** Those who look at the email by a link of their own, and how each stands to it. */
import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import clsx from "clsx";
import { Link2, X } from "lucide-react";
import { useCallback, useEffect, useState } from "react";
import { useFetcher, useRevalidator } from "react-router";
import type { Standing } from "#core/reviews/index.ts";
import type { Since } from "#server/reviews/deciding.ts";
import { ask, wordsOf } from "../ask.ts";
import type { action } from "../routes/api.reviewers.ts";
import { Button, IconButton } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { useCopy } from "../ui/copy.ts";
import { FormErrors, SelectField, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { useToast } from "../ui/toast.tsx";
import { Changes } from "./decision.tsx";
import { inviteSchema, OPEN_DAYS } from "./schema.ts";

export interface ShownReviewer {
  readonly id: number;
  readonly name: string;
  readonly required: boolean;
  readonly standing: Standing;
  /** When they decided, and with what note. */
  readonly decided: { readonly at: string; readonly note: string } | null;
  readonly since: Since | null;
  /** Their link; null where it has ended. */
  readonly link: string | null;
  readonly until: string;
}

const SAID: Record<Standing, string> = {
  waiting: "has not decided yet",
  approved: "approves it",
  asked: "asks for changes",
  stale: "approved an earlier state",
};
const TONES: Record<Standing, string> = {
  waiting: "text-ink-2",
  approved: "text-leaf",
  asked: "text-rust",
  stale: "text-saffron-ink",
};

function Invite({ campaign, onDone }: { campaign: string; onDone: () => void }) {
  const fetcher = useFetcher<typeof action>();
  const [form, fields] = useForm({
    lastResult: fetcher.data,
    defaultValue: { days: "14" },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: inviteSchema }),
    shouldRevalidate: "onInput",
  });
  const say = useToast();
  const done = fetcher.state === "idle" && fetcher.data?.status === "success";
  useEffect(() => {
    if (!done) return;
    say("The link is made");
    onDone();
  }, [done, say, onDone]);
  return (
    <Form
      method="post"
      action={`/campaigns/${campaign}/reviewers`}
      fetcher={fetcher}
      {...getFormProps(form)}
      className="flex flex-col gap-2.5"
    >
      <FormErrors errors={form.errors} />
      <TextField meta={fields.name} label="Name of the reviewer" />
      <TextField
        meta={fields.email}
        label="Email address"
        hint="The link is sent there. Without one, copy it and send it yourself."
      />
      <SelectField
        meta={fields.days}
        label="Open for"
        options={OPEN_DAYS.map((days) => ({ value: days, label: `${days} days` }))}
      />
      <Checkbox
        label="Schedule only with their approval"
        className="text-small"
        name={fields.required.name}
        value="on"
      />
      <div>
        <Button type="submit">Make a link</Button>
      </div>
    </Form>
  );
}

function Reviewer({ campaign, one }: { campaign: string; one: ShownReviewer }) {
  const say = useToast();
  const { revalidate } = useRevalidator();
  const change = async (json: object) => {
    const reply = await ask(`/campaigns/${campaign}/comments`, { json });
    if (reply.kind !== "ok") return say(wordsOf(reply, "This could not be changed."), "wrong");
    await revalidate();
  };
  const copy = useCopy();
  const { id, name, link, standing, decided, since } = one;
  return (
    <li className="border-b py-2.5" data-reviewer={name}>
      <div className="flex items-center gap-1">
        <p className="min-w-0 flex-1 text-body">
          <strong className="break-words">{name}</strong>{" "}
          <span className={clsx(TONES[standing])}>{SAID[standing]}</span>
          {decided && <span className="text-small text-ink-2"> · {decided.at}</span>}
        </p>
        {link && (
          <>
            <IconButton
              label={`Copy the link of ${name}`}
              onClick={() => void copy(link, "The link is copied")}
            >
              <Link2 />
            </IconButton>
            <IconButton
              label={`End the link of ${name}`}
              onClick={() => void change({ do: "revoke", reviewer: id })}
            >
              <X />
            </IconButton>
          </>
        )}
      </div>
      {decided?.note && <p className="text-body whitespace-pre-line">{decided.note}</p>}
      {since && <Changes since={since} />}
      <div className="mt-0.5 flex flex-wrap gap-x-3 text-small text-ink-2">
        {link ? (
          <>
            <Checkbox
              label="Schedule only with their approval"
              checked={one.required}
              onChange={(event) =>
                void change({
                  do: "require",
                  reviewer: id,
                  required: event.currentTarget.checked,
                })
              }
            />
            <a className="link" href={link} target="_blank" rel="noreferrer">
              See what they see
            </a>
            <span>until {one.until}</span>
          </>
        ) : (
          "The link has ended."
        )}
      </div>
    </li>
  );
}

export function Reviewers({
  campaign,
  reviewers,
}: {
  campaign: string;
  reviewers: readonly ShownReviewer[];
}) {
  const [open, setOpen] = useState(false);
  const close = useCallback(() => setOpen(false), []);
  return (
    <section aria-label="Reviewers">
      <h2 className="mb-1 text-head">Reviewers</h2>
      <ul>
        {reviewers.map((one) => (
          <Reviewer key={one.id} campaign={campaign} one={one} />
        ))}
      </ul>
      <div className="mt-2">
        {open ? (
          <Invite campaign={campaign} onDone={close} />
        ) : (
          <Button onClick={() => setOpen(true)}>Ask somebody to look…</Button>
        )}
      </div>
    </section>
  );
}
