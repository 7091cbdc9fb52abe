/** Words of the house that are in no dictionary, which the proof takes as right. */
import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { X } from "lucide-react";
import { useSubmit } from "react-router";
import { Button } from "../ui/button.tsx";
import { TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { wordsFormSchema } from "./schemas.ts";
import { answer, CARD, type Result, type SettingsData } from "./section.ts";

export function WordsForm({ data: loaded, result }: { data: SettingsData; result: Result }) {
  const submit = useSubmit();
  const { words } = loaded.settings;
  const [form, fields] = useForm({
    id: "words",
    lastResult: answer(result, "words"),
    onValidate: ({ formData }) => parseWithZod(formData, { schema: wordsFormSchema }),
    shouldRevalidate: "onInput",
  });
  return (
    <section aria-labelledby="section-words" className={CARD}>
      <h2 id="section-words" className="text-head">
        Words
      </h2>
      <p className="text-small text-ink-2">
        {words.length === 0
          ? "Words that are in no dictionary and are right all the same: names, plants, places. What is kept as right in a proof comes here too."
          : "They are in no dictionary, and spelling takes them as right."}
      </p>
      {words.length > 0 && (
        <ul aria-label="Our words" className="flex max-h-48 flex-wrap gap-1.5 overflow-y-auto">
          {words
            .toSorted((a, b) => a.localeCompare(b))
            .map((word) => (
              <li
                key={word}
                className="flex items-center gap-0.5 rounded-md border pl-2 text-small"
              >
                {word}
                <button
                  type="button"
                  aria-label={`Delete ${word}`}
                  className="grid size-6 place-items-center rounded-md text-ink-2 hover:text-rust"
                  onClick={() =>
                    void submit({ what: "words", do: "remove", word }, { method: "post" })
                  }
                >
                  <X size={14} aria-hidden />
                </button>
              </li>
            ))}
        </ul>
      )}
      <Form method="post" {...getFormProps(form)} className="flex items-end gap-2">
        <input type="hidden" name="what" value="words" />
        <input type="hidden" name="do" value="add" />
        <TextField meta={fields.word} label="A word" autoComplete="off" />
        <Button type="submit">Add the word</Button>
      </Form>
    </section>
  );
}
