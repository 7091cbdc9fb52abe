/** Settings of the email itself: its envelope, width and language. */
import { useState } from "react";
import type { EmailProps } from "#core/blocks/layout.ts";
import { type DerivedTag, derivedIdOf } from "#core/derived/index.ts";
import type { SimpleEdit } from "#core/document/index.ts";
import { MAIL_ADDRESS } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import { envelopeAddress } from "#core/merge/index.ts";
import { line, tag } from "#core/text/index.ts";
import { Field, INPUT } from "../../ui/field.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Select } from "../../ui/select.tsx";
import { useCommands } from "../doing/commands.ts";
import { useReading } from "../reading/reading.ts";
import { LineInput } from "../text/line-input.tsx";
import { SubjectHelp } from "../writing/subject-help.tsx";
import { ChoiceControl } from "./controls/choice.tsx";
import { Section } from "./parts.tsx";

type AddressName = "fromAddress" | "replyTo";

/** Derived tags that give a sender. */
function useSenders(): readonly DerivedTag[] {
  const { tags } = useReading("tags");
  return [...tags.derived.values()].filter(({ kind }) => kind === "sender");
}

/** A mail address of the envelope, saved when it is right. */
function AddressField({ name, label }: { name: AddressName; label: string }) {
  const { doc } = useReading("doc");
  const { edit } = useCommands();
  const stored = (doc.root.props as unknown as EmailProps).envelope[name];
  const [error, setError] = useState<string | null>(null);
  return (
    <Field label={label} errors={error ? [error] : null}>
      {(ids) => (
        <input
          {...ids}
          key={stored}
          defaultValue={stored}
          type="email"
          maxLength={LIMITS.addressLength}
          className={INPUT}
          onBlur={(event) => {
            const value = event.target.value.trim();
            const wrong = value !== "" && !MAIL_ADDRESS.test(value);
            setError(wrong ? "This is not a mail address." : null);
            if (!wrong && value !== stored) {
              edit({ type: "set", node: doc.root.id, path: ["envelope", name], value });
            }
          }}
        />
      )}
    </Field>
  );
}

/** Whether an address is written here, or is that of a sender who is derived for each reader. */
function SenderChoice({
  name,
  label,
  onChoose,
}: {
  name: AddressName;
  label: string;
  onChoose: (sender: DerivedTag | null) => void;
}) {
  const { doc, reader, tags } = useReading("doc", "reader", "tags");
  const senders = useSenders();
  const stored = (doc.root.props as unknown as EmailProps).envelope[name];
  const id = derivedIdOf(stored);
  if (senders.length === 0 && id === null) return null;
  return (
    <Field
      label={label}
      hint={
        id !== null
          ? `For this reader: ${envelopeAddress(stored, reader, tags) ?? "nobody"}`
          : undefined
      }
    >
      {(ids) => (
        <Select
          {...ids}
          value={id ?? ""}
          none="Written here"
          options={senders.map(({ id, name }) => ({ value: id, label: `${name} (derived)` }))}
          onValue={(next) => onChoose(senders.find((one) => one.id === next) ?? null)}
        />
      )}
    </Field>
  );
}

export function EnvelopeSettings() {
  const { doc } = useReading("doc");
  const { edit } = useCommands();
  const { envelope } = doc.root.props as unknown as EmailProps;
  const set = (name: string, value: unknown): SimpleEdit => ({
    type: "set",
    node: doc.root.id,
    path: ["envelope", name],
    value: value as never,
  });
  const text = (name: "fromName" | "subject" | "preview", label: string, hint?: string) => (
    <LineInput
      label={label}
      hint={hint}
      text={envelope[name]}
      at={{ node: doc.root.id, path: ["envelope", name] }}
    />
  );
  return (
    <Section title="Envelope">
      {text("subject", "Subject")}
      <SubjectHelp />
      {text("preview", "Preview text", "Stands behind the subject in the inbox.")}
      <SenderChoice
        name="fromAddress"
        label="Sender"
        onChoose={(sender) =>
          edit({
            type: "group",
            edits: [
              set("fromAddress", sender ? `derived:${sender.id}` : ""),
              set("fromName", sender ? line(tag(`derived:${sender.id}.name`)) : line()),
            ],
          })
        }
      />
      {derivedIdOf(envelope.fromAddress) === null && (
        <>
          {text("fromName", "From")}
          <AddressField name="fromAddress" label="From address" />
        </>
      )}
      <SenderChoice
        name="replyTo"
        label="Replies go to"
        onChoose={(sender) => edit(set("replyTo", sender ? `derived:${sender.id}` : ""))}
      />
      {derivedIdOf(envelope.replyTo) === null && (
        <AddressField name="replyTo" label="Address for replies" />
      )}
    </Section>
  );
}

export function EmailSettings() {
  const { doc } = useReading("doc");
  const { edit } = useCommands();
  const { width } = doc.root.props as unknown as EmailProps;
  const { min, max } = LIMITS.emailWidth;
  return (
    <Section title="Email">
      <NumberField
        label="Width"
        unit="px"
        value={width}
        min={min}
        max={max}
        onValue={(value) =>
          value !== null && edit({ type: "set", node: doc.root.id, path: ["width"], value })
        }
      />
      <div className="grid grid-cols-2 gap-2.5">
        <ChoiceControl
          node={doc.root}
          control={{
            control: "choice",
            path: ["dir"],
            label: "Text direction",
            options: [
              { value: "ltr", label: "Left to right" },
              { value: "rtl", label: "Right to left" },
            ],
          }}
        />
        <ChoiceControl
          node={doc.root}
          control={{
            control: "choice",
            path: ["textLinks"],
            label: "Links in plain text",
            options: [
              { value: "inline", label: "After their text" },
              { value: "numbered", label: "Numbered" },
            ],
          }}
        />
      </div>
    </Section>
  );
}
