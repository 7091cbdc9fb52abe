/** Choosing a merge tag: search among all there are, then a fallback and a format. */
import { Braces } from "lucide-react";
import { useState } from "react";
import { tagWords } from "#core/merge/index.ts";
import { OWN_ADDRESSES, type Tag, type TagFormat, tagSchema } from "#core/text/index.ts";
import { Button } from "../../ui/button.tsx";
import { FormErrors, Field as FormField, INPUT } from "../../ui/field.tsx";
import { NumberInput } from "../../ui/number-input.tsx";
import { PickList } from "../../ui/pick-list.tsx";
import { Popover } from "../../ui/popover.tsx";
import { Select } from "../../ui/select.tsx";
import { count, people, percent } from "../../ui/words.ts";
import { firstSays, useDesigned } from "../live/item-tags.ts";
import { useReading } from "../reading/reading.ts";
import { useSession } from "../session/session.ts";
import { FORMATS, formatIndex, type TagSource, tagSources } from "./tag-sources.ts";
import { useTagShares } from "./use-tag-shares.ts";

/** The settings a format has of its own. */
function FormatSettings({
  format,
  onChange,
}: {
  format: TagFormat | null;
  onChange: (format: TagFormat) => void;
}) {
  if (format?.type === "money") {
    return (
      <FormField label="Currency" hint="Three letters, such as GBP or EUR.">
        {(ids) => (
          <input
            {...ids}
            value={format.currency}
            maxLength={3}
            onChange={(event) =>
              onChange({ ...format, currency: event.target.value.toUpperCase() })
            }
            className={INPUT}
          />
        )}
      </FormField>
    );
  }
  if (format?.type === "trim") {
    return (
      <FormField label="Characters at most">
        {(ids) => (
          <NumberInput
            {...ids}
            min={4}
            max={300}
            value={format.length}
            onValue={(length) => onChange({ ...format, length: length ?? Number.NaN })}
            className="w-full"
          />
        )}
      </FormField>
    );
  }
  if (format?.type !== "plural") return null;
  return (
    <div className="grid grid-cols-2 gap-2">
      {(["one", "other"] as const).map((which) => (
        <FormField key={which} label={which === "one" ? "Word for one" : "For several"}>
          {(ids) => (
            <input
              {...ids}
              value={format[which]}
              maxLength={60}
              onChange={(event) => onChange({ ...format, [which]: event.target.value })}
              className={INPUT}
            />
          )}
        </FormField>
      ))}
    </div>
  );
}

function Details({
  source,
  tag,
  onDone,
  onOther,
}: {
  source: TagSource;
  /** The tag that is changed; null for a new one. */
  tag: Tag | null;
  onDone: (tag: Tag) => void;
  /** Goes to the list. */
  onOther: () => void;
}) {
  const { reader, tags } = useReading("reader", "tags");
  const formats = FORMATS[source.type];
  const [fallback, setFallback] = useState(tag?.fallback ?? "");
  const [format, setFormat] = useState(
    tag && formatIndex(source.type, tag.format) >= 0 ? tag.format : formats[0]!.format,
  );
  const made: Tag = { ref: source.ref, fallback: fallback === "" ? null : fallback, format };
  const problem = tagSchema.safeParse(made).success ? null : "This format is not complete.";
  const own = tags.fallbacks.get(source.ref);
  const designed = useDesigned();
  return (
    <form
      className="flex w-72 flex-col gap-2.5 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        event.stopPropagation();
        if (!problem) onDone(made);
      }}
    >
      <p className="flex items-baseline justify-between gap-4">
        <strong>{source.label}</strong>
        <button type="button" className="link text-small" onClick={onOther}>
          Another tag
        </button>
      </p>
      {source.type !== "fixed" && (
        <FormField
          label="Fallback"
          hint={own ? `Left empty: “${own}”, as the field says.` : "For readers who have no value."}
        >
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
      )}
      {formats.length > 1 && (
        <FormField label="Format">
          {(ids) => (
            <Select
              {...ids}
              value={String(formatIndex(source.type, format))}
              options={formats.map(({ label }, i) => ({ value: String(i), label }))}
              onValue={(next) => setFormat(formats[Number(next)]!.format)}
            />
          )}
        </FormField>
      )}
      <FormatSettings format={format} onChange={setFormat} />
      <p className="text-small text-ink-2" data-tag-shows>
        Shows:{" "}
        <strong className="text-ink">
          {(!problem && tagWords(firstSays(made, designed, tags.lang), reader, tags)) || "nothing"}
        </strong>
      </p>
      <FormErrors errors={problem ? [problem] : null} />
      <Button type="submit" primary disabled={problem !== null}>
        {tag ? "Change it" : "Put it in"}
      </Button>
    </form>
  );
}

const ADDRESSES: readonly string[] = Object.keys(OWN_ADDRESSES);

/** The list of tags and what follows; for a popover's content. */
export function TagChooser({
  tag = null,
  onChoose,
}: {
  /** The tag that is changed; null for a new one. */
  tag?: Tag | null;
  onChoose: (tag: Tag) => void;
}) {
  const { fields, itemFields, tags, surroundings, reader } = useReading(
    "fields",
    "itemFields",
    "tags",
    "surroundings",
    "reader",
  );
  const { campaign } = useSession();
  const shares = useTagShares(campaign);
  const designed = useDesigned();
  const rolls = surroundings.rolls?.values() ?? [];
  const sources = tagSources(fields, tags.derived.values(), rolls, designed?.kind, itemFields);
  const [source, setSource] = useState(sources.find(({ ref }) => ref === tag?.ref) ?? null);
  if (source) {
    return (
      <Details
        key={source.ref}
        source={source}
        tag={tag}
        onDone={onChoose}
        onOther={() => setSource(null)}
      />
    );
  }
  const groups = [...new Set(sources.map(({ group }) => group))];
  /** What the reader sees, or else what others have. */
  const shows = ({ ref }: TagSource) => {
    if (ADDRESSES.includes(ref)) return "";
    const plain = { ref, fallback: null, format: null };
    const own = tagWords(firstSays(plain, designed, tags.lang), reader, tags);
    return own || shares?.byRef.get(ref)?.examples.join(", ") || "–";
  };
  const shown = (one: TagSource) => {
    const share = shares?.byRef.get(one.ref);
    return (
      <>
        <span className="flex-none font-semibold">{one.label}</span>
        <span className="min-w-0 flex-1 truncate text-right text-ink-3">{shows(one)}</span>
        {share && (
          <span
            className="w-9 flex-none text-right text-small text-ink-2"
            title={`${count(share.have)} of ${people(shares!.of)} have a value`}
          >
            {percent(share.have, shares!.of)}
          </span>
        )}
      </>
    );
  };
  return (
    <PickList
      label="Merge tags"
      hint="Find a merge tag"
      empty="No matches."
      className="w-80"
      groups={groups.map((name) => ({
        name,
        items: sources
          .filter(({ group }) => group === name)
          .map((one) => ({
            key: one.ref,
            label: one.label,
            other: one.ref,
            shown: shown(one),
            // There is nothing to be said about what is fixed.
            onPick: () =>
              one.type === "fixed"
                ? onChoose({ ref: one.ref, fallback: null, format: null })
                : setSource(one),
          })),
      }))}
    />
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
