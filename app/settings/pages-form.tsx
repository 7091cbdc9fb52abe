/** How pages for readers look, and what they say in the house's own words. */
import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { useState } from "react";
import { Link } from "react-router";
import type { Picture } from "#core/kinds/kind.ts";
import { LANGUAGES, type Language, phrases } from "#core/phrases/index.ts";
import { PAGE_PHRASE_KEYS, PAGE_PHRASES } from "#core/phrases/pages.ts";
import { Button, Buttonlike } from "../ui/button.tsx";
import { FormErrors, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { PicturePicker } from "../ui/picture-picker.tsx";
import { Segmented } from "../ui/segmented.tsx";
import { pagesFormSchema } from "./schemas.ts";
import { answer, CARD, type Result, type SettingsData } from "./section.ts";

export function PagesForm({ data, result }: { data: SettingsData; result: Result }) {
  const { pages } = data.settings;
  const [form, fields] = useForm({
    id: "pages",
    lastResult: answer(result, "pages"),
    defaultValue: { words: pages.words },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: pagesFormSchema }),
    shouldRevalidate: "onInput",
  });
  const [logo, setLogo] = useState<Pick<Picture, "id" | "file"> | null>(data.logo);
  const [shown, setShown] = useState<Language>("en");
  const words = fields.words.getFieldset();
  return (
    <Form method="post" {...getFormProps(form)} className={CARD}>
      <h2 id="section-pages" className="text-head">
        Pages for readers
      </h2>
      <p className="text-small text-ink-2">
        Unsubscribing, preferences, sign-up and answers wear the{" "}
        <Link className="link" to="/library/themes/brand">
          theme of new emails
        </Link>
        .
      </p>
      <FormErrors errors={form.errors} />
      <input type="hidden" name="what" value="pages" />
      <input type="hidden" name="logo" value={logo?.id ?? ""} />
      <div className="flex items-center gap-2.5">
        <span className="text-small text-ink-2">Logo</span>
        {logo ? (
          <img src={`/pictures/${logo.file}`} alt="The logo" className="h-10 max-w-40" />
        ) : (
          <span className="text-ink-3">your name</span>
        )}
        <PicturePicker
          title="The logo"
          taken={logo?.id ?? null}
          onTake={setLogo}
          trigger={<Buttonlike type="button">Choose the logo</Buttonlike>}
        />
        {logo && (
          <Button type="button" onClick={() => setLogo(null)}>
            None
          </Button>
        )}
      </div>
      <Segmented
        label="Language of the pages"
        value={shown}
        options={LANGUAGES.map(({ code, name }) => ({ value: code, label: name }))}
        onChange={setShown}
      />
      {LANGUAGES.map(({ code }) => {
        const own = words[code].getFieldset();
        return (
          // What is not shown is sent all the same.
          <div key={code} hidden={code !== shown} lang={code}>
            <div className="flex flex-col gap-3">
              {PAGE_PHRASE_KEYS.map((key) => (
                <TextField
                  key={key}
                  meta={own[key]}
                  label={PAGE_PHRASES[key]}
                  placeholder={String(phrases(code)[key])}
                />
              ))}
            </div>
          </div>
        );
      })}
      <div>
        <Button type="submit" primary>
          Save the pages
        </Button>
      </div>
    </Form>
  );
}
