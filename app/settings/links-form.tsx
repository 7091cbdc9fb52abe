/** Campaign parameters: what every web address in emails says of where its visitors come from. */
import { useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { LIMITS } from "#core/limits.ts";
import { TextField } from "../ui/field.tsx";
import { linksFormSchema } from "./schemas.ts";
import { answer, type Result, type SettingsData } from "./section.ts";
import { SectionForm } from "./section-form.tsx";

export function LinksForm({ data: loaded, result }: { data: SettingsData; result: Result }) {
  const known = loaded.settings.linkParameters;
  // A line more than there are, to be filled in.
  const lines = [
    ...known,
    ...(known.length < LIMITS.linkParameters ? [{ name: "", words: "" }] : []),
  ];
  const [form, fields] = useForm({
    id: "links",
    lastResult: answer(result, "links"),
    defaultValue: { parameters: lines },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: linksFormSchema }),
    shouldRevalidate: "onInput",
  });
  return (
    <SectionForm what="links" title="Links" save="Save the parameters" form={form}>
      <p className="text-small text-ink-2">
        Campaign parameters are added to every web address in emails, so that the statistics of a
        site tell where its visitors come from. An email can say something else, and an address that
        has a parameter of its own keeps it.
      </p>
      {fields.parameters.getFieldList().map((one, i) => {
        const { name, words } = one.getFieldset();
        return (
          <div key={one.key} className="grid grid-cols-2 gap-3">
            <TextField meta={name} label={`Parameter ${i + 1}`} autoComplete="off" />
            <TextField meta={words} label="What it says" placeholder="the campaign’s name" />
          </div>
        );
      })}
      {fields.parameters.errors && (
        <p className="text-small text-rust">{fields.parameters.errors.join(" ")}</p>
      )}
    </SectionForm>
  );
}
