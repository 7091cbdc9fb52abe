/** Which languages an email can be read in, and who gets which. */
import type { EmailProps } from "#core/blocks/layout.ts";
import { languageName, translationCount } from "#core/languages/index.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { Select } from "../../ui/select.tsx";
import { useCommands } from "../doing/commands.ts";
import { usePanels } from "../panels/open.ts";
import { useReading } from "../reading/reading.ts";
import { Section } from "../settings/parts.tsx";

/** Languages that are offered; any other tag stays where a document has it. */
export const OFFERED = ["en-GB", "en-US", "fr", "de", "es", "it", "nl", "ar", "he"] as const;

export function LanguageSettings() {
  const { doc, fields } = useReading("doc", "fields");
  const { edit } = useCommands();
  const { open } = usePanels();
  const { lang, others, languageField } = doc.root.props as unknown as EmailProps;
  const set = (path: string, value: unknown) =>
    edit({ type: "set", node: doc.root.id, path: [path], value: value as never });
  const free = OFFERED.filter((one) => one !== lang && !others.includes(one));
  return (
    <Section title="Languages">
      <Field label="Main language">
        {(ids) => (
          <Select
            {...ids}
            value={lang}
            options={[...new Set([lang, ...OFFERED])]
              .filter((one) => !others.includes(one))
              .map((one) => ({ value: one, label: languageName(one) }))}
            onValue={(next) => next && set("lang", next)}
          />
        )}
      </Field>
      {others.map((one) => {
        const { all, missing, stale } = translationCount(doc, one);
        return (
          <div key={one} className="flex items-center justify-between gap-2">
            <span>
              {languageName(one)}{" "}
              <span
                className={`text-small ${missing + stale > 0 ? "text-saffron-ink" : "text-ink-3"}`}
              >
                {all - missing} of {all}
              </span>
            </span>
            <span className="flex gap-1.5">
              <Button onClick={() => open("translations", one)}>Translate</Button>
              <Button
                aria-label={`Without ${languageName(one)}`}
                onClick={() =>
                  set(
                    "others",
                    others.filter((other) => other !== one),
                  )
                }
              >
                ×
              </Button>
            </span>
          </div>
        );
      })}
      <Field label="Another language">
        {(ids) => (
          <Select
            {...ids}
            value=""
            hint="Add one…"
            options={free.map((one) => ({ value: one, label: languageName(one) }))}
            onValue={(next) => {
              if (!next) return;
              set("others", [...others, next]);
              const guess = fields.find(({ id }) => id === "language");
              if (languageField === null && guess) set("languageField", guess.id);
            }}
          />
        )}
      </Field>
      {others.length > 0 && (
        <Field
          label="Readers get theirs by"
          hint="Readers with none of these get the main language."
        >
          {(ids) => (
            <Select
              {...ids}
              value={languageField ?? ""}
              none="Choose a field"
              options={fields
                .filter(
                  ({ id, type }) => !id.includes(".") && (type === "choice" || type === "text"),
                )
                .map(({ id, label }) => ({ value: id, label }))}
              onValue={(next) => set("languageField", next || null)}
            />
          )}
        </Field>
      )}
    </Section>
  );
}
