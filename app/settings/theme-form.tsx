/** How new emails look. */
import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { FONTS, STANDARD_THEME } from "#core/theme/theme.ts";
import { Button } from "../ui/button.tsx";
import { Field, INPUT, SelectField, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { darkName, ROLES, themeFormSchema } from "./schemas.ts";
import { answer, CARD, type Result, type SettingsData } from "./section.ts";

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
    <Form method="post" {...getFormProps(form)} className={CARD}>
      <h2 className="text-[20px]">Theme for new emails</h2>
      <input type="hidden" name="what" value="theme" />
      <div className="grid grid-cols-2 gap-3">
        {ROLES.flatMap(([role, label]) => [
          swatch(role, label, theme.colours[role]),
          swatch(darkName(role), `${label}, in the dark`, dark[role]),
        ])}
        <label className="col-span-2 flex items-center gap-2 text-[13px]">
          <input type="checkbox" name="dark" defaultChecked={theme.dark !== null} />
          Use the dark colours where a mail program shows dark
        </label>
        <SelectField meta={fields.heading} label="Heading font" options={fontOptions} />
        <SelectField meta={fields.body} label="Text font" options={fontOptions} />
        <TextField
          meta={fields.size as typeof fields.heading}
          label="Text size, px"
          inputMode="numeric"
        />
      </div>
      <div>
        <Button type="submit" primary>
          Save the theme
        </Button>
      </div>
    </Form>
  );
}
