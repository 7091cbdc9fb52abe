/** Saves an email as a template. */
import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { CATEGORIES } from "#core/templates/categories.ts";
import { Button } from "../ui/button.tsx";
import { SelectField, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { rowSchema } from "./row-schema.ts";

const OPTIONS = Object.entries(CATEGORIES).map(([value, label]) => ({ value, label }));

export function TemplateForm({
  campaign,
}: {
  campaign: { readonly id: string; readonly name: string };
}) {
  const [form, fields] = useForm<{ name: string; about: string; category: string }>({
    id: `template-${campaign.id}`,
    defaultValue: { name: campaign.name, category: "news" },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: rowSchema }) as never,
  });
  return (
    <Form method="post" {...getFormProps(form)} className="flex flex-col gap-3">
      <input type="hidden" name="do" value="template" />
      <input type="hidden" name="campaign" value={campaign.id} />
      <TextField meta={fields.name} label="Name" autoFocus />
      <TextField
        meta={fields.about}
        label="What it is for"
        placeholder="A month’s news: one opening, two things side by side."
      />
      <SelectField meta={fields.category} label="Category" options={OPTIONS} />
      <p className="text-small text-ink-2">
        The template is a copy: what is changed in the campaign later does not change it.
      </p>
      <div>
        <Button type="submit" primary>
          Save the template
        </Button>
      </div>
    </Form>
  );
}
