/** Which items fit, from where, how many, and what comes first. */
import { useEffect, useState } from "react";
import type { DocNode } from "#core/document/index.ts";
import { type Choice, orderOf, ordersFor } from "#core/items/index.ts";
import { LIMITS } from "#core/limits.ts";
import { answerTo } from "../../../ask.ts";
import { RuleDialog } from "../../../rules/rule-dialog.tsx";
import { Button, Buttonlike } from "../../../ui/button.tsx";
import { Checkbox } from "../../../ui/checkbox.tsx";
import { Field } from "../../../ui/field.tsx";
import { NumberInput } from "../../../ui/number-input.tsx";
import { Select } from "../../../ui/select.tsx";
import { useChosen } from "../../live/chosen.ts";
import { useReading } from "../../reading/reading.ts";
import type { ItemPage } from "../../wire.ts";

/** Changes some of a choice. */
export type Change = (change: Partial<Choice>) => void;
interface Props {
  readonly kind: string;
  readonly choice: Choice;
  readonly onChange: Change;
}

/** The sources there are of a kind. */
function useSources(kind: string): ItemPage["sources"] {
  const [sources, setSources] = useState<ItemPage["sources"]>([]);
  useEffect(() => {
    let gone = false;
    void answerTo<ItemPage>(`/library/items?${new URLSearchParams({ kind })}`).then((page) => {
      if (!gone && page) setSources(page.sources);
    });
    return () => {
      gone = true;
    };
  }, [kind]);
  return sources;
}

function Sources({ kind, choice, onChange }: Props) {
  const sources = useSources(kind);
  if (sources.length < 2) return null;
  const all = choice.sources.length === 0;
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="mb-0.5 text-small text-ink-2">From</legend>
      {sources.map(({ id, name }) => (
        <Checkbox
          key={id}
          label={name}
          checked={all || choice.sources.includes(id)}
          onChange={({ target: { checked: on } }) => {
            const before = all ? sources.map((one) => one.id) : choice.sources;
            const next = on ? [...before, id] : before.filter((one) => one !== id);
            if (next.length === 0) return;
            // All of them are whatever there will be.
            onChange({ sources: next.length === sources.length ? [] : next });
          }}
        />
      ))}
    </fieldset>
  );
}

function Orders({ kind, choice, onChange }: Props) {
  const orders = ordersFor(kind).map(({ id, label }) => ({ value: id, label }));
  const looksBack = [choice.order, choice.fill].some((id) => id !== null && orderOf(id).looksBack);
  return (
    <>
      <Field label="What comes first">
        {(ids) => (
          <Select
            {...ids}
            value={choice.order}
            options={orders}
            onValue={(order) => onChange({ order })}
          />
        )}
      </Field>
      <Field label="When fewer fit, fill up with">
        {(ids) => (
          <Select
            {...ids}
            value={choice.fill ?? ""}
            none="nothing"
            options={orders.filter(({ value }) => value !== choice.order)}
            onValue={(fill) => onChange({ fill: fill || null })}
          />
        )}
      </Field>
      {looksBack && (
        <Field label="Looking back, days">
          {(ids) => (
            <NumberInput
              {...ids}
              min={1}
              max={LIMITS.ruleDays}
              value={choice.days}
              onValue={(days) => days && onChange({ days })}
            />
          )}
        </Field>
      )}
    </>
  );
}

/** Which field of an item says the same as which of the reader. */
function Match({ kind, choice, onChange }: Props) {
  const { fields } = useReading("fields");
  const own = [
    { value: "categories", label: "Categories" },
    ...(kind === "calendar" ? [{ value: "place", label: "Place" }] : []),
    ...(kind === "feed" ? [{ value: "author", label: "Author" }] : []),
  ];
  const { match } = choice;
  const texts = fields.filter(({ type }) =>
    ["text", "choice", "choices", "place", "record"].includes(type),
  );
  return (
    <div className="flex flex-col gap-2.5">
      <Field label="Only those of the reader’s own">
        {(ids) => (
          <Select
            {...ids}
            value={match?.field ?? ""}
            none="no: the same for everybody"
            options={own}
            onValue={(field) =>
              onChange({ match: field ? { field, reader: match?.reader ?? texts[0]!.id } : null })
            }
          />
        )}
      </Field>
      {match && (
        <Field label="As the reader’s field says">
          {(ids) => (
            <Select
              {...ids}
              value={match.reader}
              options={texts.map(({ id, label }) => ({ value: id, label }))}
              onValue={(reader) => onChange({ match: { ...match, reader } })}
            />
          )}
        </Field>
      )}
    </div>
  );
}

export function ByRule({
  node,
  kind,
  choice,
  onChange,
}: {
  node: DocNode;
  kind: string;
  choice: Choice;
  onChange: Change;
}) {
  const words = useChosen(({ words }) => words.get(node.id));
  const source = choice.sources[0];
  const from = new URLSearchParams({ kind, ...(source && { source }) });
  const number = (
    label: string,
    value: number,
    most: number,
    set: (n: number) => void,
    least = 1,
  ) => (
    <Field label={label}>
      {(ids) => (
        <NumberInput
          {...ids}
          min={least}
          max={most}
          value={value}
          onValue={(n) => n !== null && set(n)}
        />
      )}
    </Field>
  );
  return (
    <div className="flex flex-col gap-2.5">
      {words && <p className="text-ink-2">{words}</p>}
      <div className="flex flex-wrap gap-2">
        <RuleDialog
          title="What fits"
          rule={choice.rule}
          use="Use this rule"
          vocabulary={`/library/item-fields?${from}`}
          onUse={(rule) => onChange({ rule })}
          trigger={
            <Buttonlike type="button">
              {choice.rule ? "Change the rule…" : "Write a rule…"}
            </Buttonlike>
          }
        />
        {choice.rule && <Button onClick={() => onChange({ rule: null })}>No rule</Button>}
      </div>
      <Sources kind={kind} choice={choice} onChange={onChange} />
      <div className="grid grid-cols-2 gap-2.5">
        {number("How many", choice.count, LIMITS.choiceItems, (n) => onChange({ count: n }))}
        {number(
          "Leaving out the first",
          choice.skip,
          LIMITS.choiceItems,
          (n) => onChange({ skip: n }),
          0,
        )}
      </div>
      <Orders kind={kind} choice={choice} onChange={onChange} />
      <details>
        <summary className="cursor-pointer text-small text-ink-2">More limits</summary>
        <div className="mt-2 flex flex-col gap-2.5">
          {kind !== "calendar" && (
            <Field label="Not older than, days">
              {(ids) => (
                <NumberInput
                  {...ids}
                  min={1}
                  max={LIMITS.ruleDays}
                  value={choice.newerThan}
                  onValue={(newerThan) => onChange({ newerThan })}
                />
              )}
            </Field>
          )}
          <Match kind={kind} choice={choice} onChange={onChange} />
          <Checkbox
            label="Only what no campaign has sent before"
            checked={choice.unsent}
            onChange={({ target: { checked: unsent } }) => onChange({ unsent })}
          />
          {kind === "catalogue" && (
            <>
              <Checkbox
                label="Only what is in stock"
                checked={choice.inStock}
                onChange={({ target: { checked: inStock } }) => onChange({ inStock })}
              />
              <Checkbox
                label="Only what the reader has not bought"
                checked={choice.unbought}
                onChange={({ target: { checked: unbought } }) => onChange({ unbought })}
              />
            </>
          )}
          <Checkbox
            label="At most one of each source"
            checked={choice.onePerSource}
            onChange={({ target: { checked: onePerSource } }) => onChange({ onePerSource })}
          />
        </div>
      </details>
    </div>
  );
}
