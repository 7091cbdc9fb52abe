/** What is said about an image: its name, its alt text, where it lies, what it must keep in sight. */
import { getFormProps, type SubmissionResult, useForm } from "@conform-to/react";
import { getZodConstraint } from "@conform-to/zod/v4";
import { useState } from "react";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { required } from "#server/forms.ts";
import type { PictureFolderRow } from "#server/store/picture-folders.ts";
import type { LibraryPicture } from "#server/store/pictures.ts";
import { Button } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { Field, FormErrors, TextAreaField, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { named, Select } from "../ui/select.tsx";
import { FocusPoint } from "./focus.tsx";

const percent = z.number().int().min(0).max(100);
/** Labels are written one after another, with commas between them. */
const labels = z
  .string()
  .default("")
  .transform((text) => [...new Set(text.split(",").map((one) => one.trim().toLowerCase()))])
  .transform((all) => all.filter((one) => one !== ""))
  .refine((all) => all.length <= LIMITS.pictureLabels, `At most ${LIMITS.pictureLabels} labels.`)
  .refine((all) => all.every((one) => one.length <= 40), "A label has at most 40 letters.");

/** The form as it is sent. */
export const sayingSchema = z.object({
  do: z.literal("say"),
  name: required("Give it a name."),
  alt: z.string().trim().max(LIMITS.lineLength, "This is too long.").default(""),
  decorative: z.boolean().default(false),
  folder: z.string().max(40).default(""),
  labels,
  x: percent,
  y: percent,
});
export function Saying({
  picture,
  folders,
  result,
}: {
  picture: LibraryPicture;
  folders: readonly PictureFolderRow[];
  result: SubmissionResult | undefined;
}) {
  const [form, fields] = useForm({
    id: "say",
    lastResult: result,
    constraint: getZodConstraint(sayingSchema),
    defaultValue: {
      ...{ name: picture.name, alt: picture.alt, labels: picture.labels.join(", ") },
    },
    shouldRevalidate: "onInput",
  });
  const [decorative, setDecorative] = useState(picture.decorative ?? false);
  const [focus, setFocus] = useState(picture.focus ?? { x: 50, y: 50 });
  return (
    <Form method="post" {...getFormProps(form)} className="flex flex-col gap-3">
      <input type="hidden" name="do" value="say" />
      <FocusPoint src={`/pictures/${picture.file}`} focus={focus} onFocus={setFocus} />
      <input type="hidden" name="x" value={focus.x} />
      <input type="hidden" name="y" value={focus.y} />
      <TextField meta={fields.name} label="Name" />
      <TextAreaField
        meta={fields.alt}
        label="Alt text"
        rows={2}
        disabled={decorative}
        hint="What it shows, for those who do not see it. It is put in wherever the image is."
      />
      <Checkbox
        name="decorative"
        label="Only decoration: read aloud as nothing"
        checked={decorative}
        onChange={({ target }) => setDecorative(target.checked)}
      />
      <Field label="Folder">
        {(own) => (
          <Select
            {...own}
            name="folder"
            initial={picture.folder ?? ""}
            none="none"
            options={named(folders)}
          />
        )}
      </Field>
      <TextField meta={fields.labels} label="Labels" hint="With commas between them." />
      <FormErrors errors={form.errors ?? null} />
      <Button primary type="submit" className="self-start">
        Keep
      </Button>
    </Form>
  );
}
