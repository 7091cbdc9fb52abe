/** The frame of a section's form: its title, what is wrong with it as a whole, and its button. */
import { type FormMetadata, getFormProps } from "@conform-to/react";
import type { ReactNode } from "react";
import { Button } from "../ui/button.tsx";
import { FormErrors } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import type { Section } from "./save.ts";
import { CARD } from "./section.ts";

export function SectionForm<Fields extends Record<string, unknown>>({
  what,
  title,
  save,
  form,
  children,
}: {
  /** The section, which is also where links to it lead. */
  what: Section;
  title: string;
  /** What the button says. */
  save: string;
  form: FormMetadata<Fields, string[]>;
  children: ReactNode;
}) {
  return (
    <Form method="post" {...getFormProps(form)} className={CARD}>
      <h2 id={`section-${what}`} className="text-head">
        {title}
      </h2>
      <FormErrors errors={form.errors} />
      <input type="hidden" name="what" value={what} />
      {children}
      <div>
        <Button type="submit" primary>
          {save}
        </Button>
      </div>
    </Form>
  );
}
