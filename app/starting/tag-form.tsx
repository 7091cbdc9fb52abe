/** The merge tags found in what was brought, and what each of them means here. */
import type { FoundTag, Meaning } from "#core/import/emails/index.ts";
import { Button } from "../ui/button.tsx";
import { Form } from "../ui/form.tsx";
import { Select } from "../ui/select.tsx";

const LINKS = [
  { value: "link:unsubscribe", label: "Leads to: unsubscribe" },
  { value: "link:webVersion", label: "Leads to: web version" },
  { value: "link:preferences", label: "Leads to: preferences" },
];
const writtenAs = (meaning: Meaning | undefined): string => {
  if (meaning?.is === "tag") return meaning.ref;
  return meaning?.is === "link" ? `link:${meaning.kind}` : "";
};

export function TagForm({
  tags,
  meanings,
  choices,
}: {
  tags: readonly FoundTag[];
  meanings: Readonly<Record<string, Meaning>>;
  choices: readonly { readonly ref: string; readonly label: string }[];
}) {
  const fields = choices.map(({ ref, label }) => ({ value: ref, label }));
  return (
    <section aria-label="Merge tags">
      <h2 className="mb-1 text-title">Merge tags found</h2>
      <p className="mb-3 text-small text-ink-2">
        What is written between these marks looks like somebody’s value. Say what each is here.
      </p>
      <Form method="post" className="flex flex-col gap-3">
        <input type="hidden" name="do" value="tags" />
        {tags.map(({ name, written, count, leads }, i) => (
          <div key={name}>
            <div className="mb-1 flex items-baseline justify-between gap-2 text-small">
              <code className="truncate">{written}</code>
              <span className="whitespace-nowrap text-ink-3">
                {count === 1 ? "once" : `${count} times`}
              </span>
            </div>
            <Select
              label={`What ${written} means`}
              name={`meanings[${i}]`}
              initial={writtenAs(meanings[name])}
              none="Stays as it is written"
              options={leads ? [...LINKS, ...fields] : fields}
              className="w-full"
            />
          </div>
        ))}
        <div>
          <Button type="submit">Put them in</Button>
        </div>
      </Form>
    </section>
  );
}
