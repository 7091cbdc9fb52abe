/** Settings of the email itself: its envelope, width and language. */
import { useState } from "react";
import type { EmailProps } from "#core/blocks/layout.ts";
import { MAIL_ADDRESS } from "#core/fields/address.ts";
import { LIMITS } from "#core/limits.ts";
import { Field, INPUT } from "../../ui/field.tsx";
import { useComposer } from "../context.ts";
import { LineInput } from "../text/line-input.tsx";
import { SubjectHelp } from "../writing/subject-help.tsx";
import { ChoiceControl } from "./controls/choice.tsx";
import { NumberInput } from "./controls/number.tsx";
import { Section } from "./parts.tsx";

/** A mail address of the envelope, saved when it is right. */
function AddressField({ name, label }: { name: "fromAddress" | "replyTo"; label: string }) {
  const { doc, edit } = useComposer();
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

export function EnvelopeSettings() {
  const { doc } = useComposer();
  const { envelope } = doc.root.props as unknown as EmailProps;
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
      {text("fromName", "From")}
      <AddressField name="fromAddress" label="From address" />
      <AddressField name="replyTo" label="Replies go to" />
    </Section>
  );
}

export function EmailSettings() {
  const { doc, edit } = useComposer();
  const { width, lang } = doc.root.props as unknown as EmailProps;
  const { min, max } = LIMITS.emailWidth;
  return (
    <Section title="Email">
      <NumberInput
        label="Width"
        unit="px"
        value={width}
        min={min}
        max={max}
        onValue={(value) =>
          value !== null && edit({ type: "set", node: doc.root.id, path: ["width"], value })
        }
      />
      <Field label="Language">
        {(ids) => (
          <select
            {...ids}
            value={lang}
            className={INPUT}
            onChange={(event) =>
              edit({ type: "set", node: doc.root.id, path: ["lang"], value: event.target.value })
            }
          >
            <option value="en-GB">English (United Kingdom)</option>
            <option value="en-US">English (United States)</option>
            <option value="fr">French</option>
            <option value="ar">Arabic</option>
            <option value="he">Hebrew</option>
          </select>
        )}
      </Field>
      <div className="grid grid-cols-2 gap-2.5">
        <ChoiceControl
          node={doc.root}
          control={{
            control: "choice",
            path: ["dir"],
            label: "Words run",
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
              { value: "inline", label: "At their words" },
              { value: "numbered", label: "Numbered" },
            ],
          }}
        />
      </div>
    </Section>
  );
}
