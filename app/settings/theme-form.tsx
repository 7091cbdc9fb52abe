/** How new emails look. */
import { useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { FONTS, STANDARD_THEME } from "#core/theme/theme.ts";
import { Checkbox } from "../ui/checkbox.tsx";
import { Field, INPUT, SelectField, TextField } from "../ui/field.tsx";
import { darkName, ROLES, themeFormSchema } from "./schemas.ts";
import { answer, type Result, type SettingsData } from "./section.ts";
import { SectionForm } from "./section-form.tsx";

export function ThemeForm({ data: loaded, result }: { data: SettingsData; result: Result }) {
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
    <SectionForm what="theme" title="Theme for new emails" save="Save the theme" form={form}>
      <div className="grid grid-cols-2 gap-3">
        {ROLES.flatMap(([role, label]) => [
          swatch(role, label, theme.colours[role]),
          swatch(darkName(role), `${label}, in the dark`, dark[role]),
        ])}
        <Checkbox
          label="Use the dark colours where a mail program shows dark"
          className="col-span-2"
          name="dark"
          defaultChecked={theme.dark !== null}
        />
        <SelectField meta={fields.heading} label="Heading font" options={fontOptions} />
        <SelectField meta={fields.body} label="Text font" options={fontOptions} />
        <TextField
          meta={fields.size as typeof fields.heading}
          label="Text size, px"
          inputMode="numeric"
        />
      </div>
    </SectionForm>
  );
}
