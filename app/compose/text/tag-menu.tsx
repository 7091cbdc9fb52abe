/** Choosing a merge tag: search among the fields, then a fallback and a format. */
import { Command } from "cmdk";
import { Braces } from "lucide-react";
import { useState } from "react";
import { EMAIL_FIELD, type Field } from "#core/fields/index.ts";
import { type Json, sameJson } from "#core/json.ts";
import type { Tag, TagFormat } from "#core/text/index.ts";
import { Button } from "../../ui/button.tsx";
import { Field as FormField, INPUT } from "../../ui/field.tsx";
import { Popover } from "../../ui/popover.tsx";
import { useComposer } from "../context.ts";

const FORMATS: Record<string, readonly { label: string; format: TagFormat | null }[]> = {
  text: [
    { label: "As it is", format: null },
    { label: "UPPER CASE", format: { type: "case", to: "upper" } },
    { label: "lower case", format: { type: "case", to: "lower" } },
    { label: "First Letters", format: { type: "case", to: "title" } },
  ],
  number: [
    { label: "Whole number", format: { type: "number", decimals: 0 } },
    { label: "Two decimals", format: { type: "number", decimals: 2 } },
    { label: "As it is", format: null },
  ],
  date: [
    { label: "Day and month in words", format: { type: "date", style: "long" } },
    { label: "Short month", format: { type: "date", style: "medium" } },
    { label: "Only figures", format: { type: "date", style: "short" } },
    { label: "With the weekday", format: { type: "date", style: "weekday" } },
  ],
};
const formatsFor = (field: Field) => FORMATS[field.type === "choice" ? "text" : field.type]!;

function Details({
  field,
  tag,
  onDone,
  onOther,
}: {
  field: Field;
  /** The tag that is changed; null for a new one. */
  tag: Tag | null;
  onDone: (tag: Tag) => void;
  /** Goes to the list of fields. */
  onOther: () => void;
}) {
  const formats = formatsFor(field);
  const known = formats.findIndex(({ format }) =>
    sameJson(format as Json, (tag?.format ?? null) as Json),
  );
  const [fallback, setFallback] = useState(tag?.fallback ?? "");
  const [format, setFormat] = useState(Math.max(0, tag ? known : 0));
  const done = () =>
    onDone({
      ref: `contact:${field.id}`,
      fallback: fallback === "" ? null : fallback,
      format: formats[format]!.format,
    });
  return (
    <form
      className="flex flex-col gap-2.5 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        event.stopPropagation();
        done();
      }}
    >
      <p className="flex items-baseline justify-between gap-4">
        <strong>{field.label}</strong>
        <button type="button" className="link text-[12px]" onClick={onOther}>
          Another field
        </button>
      </p>
      <FormField label="Fallback" hint="For readers who have no value.">
        {(ids) => (
          <input
            {...ids}
            // biome-ignore lint/a11y/noAutofocus: the person has just chosen the tag and goes on here
            autoFocus
            value={fallback}
            maxLength={200}
            onChange={(event) => setFallback(event.target.value)}
            className={INPUT}
          />
        )}
      </FormField>
      <FormField label="Format">
        {(ids) => (
          <select
            {...ids}
            value={format}
            onChange={(event) => setFormat(Number(event.target.value))}
            className={INPUT}
          >
            {formats.map(({ label }, i) => (
              <option key={label} value={i}>
                {label}
              </option>
            ))}
          </select>
        )}
      </FormField>
      <Button type="submit" primary>
        {tag ? "Change it" : "Put it in"}
      </Button>
    </form>
  );
}

/** The list of fields and what follows; for a popover's content. */
export function TagChooser({
  tag = null,
  onChoose,
}: {
  /** The tag that is changed; null for a new one. */
  tag?: Tag | null;
  onChoose: (tag: Tag) => void;
}) {
  const { fields, readingAs } = useComposer();
  const all: Field[] = [...fields, EMAIL_FIELD];
  const own = all.find(({ id }) => tag?.ref === `contact:${id}`) ?? null;
  const [field, setField] = useState<Field | null>(own);
  if (field) {
    return (
      <Details
        key={field.id}
        field={field}
        tag={tag}
        onDone={onChoose}
        onOther={() => setField(null)}
      />
    );
  }
  return (
    <Command label="Merge tags" className="w-64">
      <Command.Input
        autoFocus
        placeholder="Find a merge tag"
        className="w-full border-b bg-transparent px-3 py-2 outline-none"
      />
      <Command.List className="max-h-64 overflow-auto p-1">
        <Command.Empty className="px-2 py-3 text-ink-3">No field is called that.</Command.Empty>
        {all.map((one) => (
          <Command.Item
            key={one.id}
            value={one.label}
            onSelect={() => setField(one)}
            className="flex cursor-pointer justify-between gap-3 rounded-md px-2 py-1.5 data-[selected=true]:bg-plum-soft"
          >
            <span className="font-semibold">{one.label}</span>
            <span className="truncate text-ink-3">
              {String(readingAs?.values[`contact:${one.id}`] ?? "–")}
            </span>
          </Command.Item>
        ))}
      </Command.List>
    </Command>
  );
}

/** The chooser in a popover, opened by its own button or from outside. */
export function TagMenu({
  open,
  tag = null,
  onOpenChange,
  onChoose,
}: {
  open: boolean;
  /** The tag that is changed; null for a new one. */
  tag?: Tag | null;
  onOpenChange: (open: boolean) => void;
  onChoose: (tag: Tag) => void;
}) {
  return (
    <Popover
      label="Merge tags"
      open={open}
      onOpenChange={onOpenChange}
      align="end"
      keepFocus
      trigger={
        <button
          type="button"
          aria-label="Put in a merge tag"
          title="Put in a merge tag ({ or Ctrl+M)"
          className="flex-none rounded p-0.5 text-ink-2 hover:bg-bench hover:text-plum"
        >
          <Braces className="size-3.5" />
        </button>
      }
    >
      <TagChooser
        tag={tag}
        onChoose={(tag) => {
          onChoose(tag);
          onOpenChange(false);
        }}
      />
    </Popover>
  );
}
