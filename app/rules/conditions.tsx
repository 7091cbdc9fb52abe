/** One condition of a rule, by its kind. */
import {
  type ActivityTest,
  DEEDS,
  type FieldTest,
  OPERATORS_BY_TYPE,
  operatorOf,
} from "#core/rules/index.ts";
import { Choice } from "../ui/choice.tsx";
import { INPUT } from "../ui/field.tsx";
import { Argument } from "./argument.tsx";
import type { DraftCondition } from "./draft.ts";
import { emptyArgument, type Vocabulary } from "./vocabulary.ts";

interface Props<T> {
  condition: T;
  vocabulary: Vocabulary;
  /** What is wrong with what is written, or null. */
  problem: string | null;
  onChange: (condition: DraftCondition) => void;
}

type Keyed<T> = T & { readonly key: string };

function FieldCondition({ condition, vocabulary, problem, onChange }: Props<Keyed<FieldTest>>) {
  const field = vocabulary.fields.find(({ path }) => path === condition.field);
  if (!field) return <span className="text-rust">names a field that is gone</span>;
  const operators = OPERATORS_BY_TYPE[field.type];
  const operator = operatorOf(condition.op) ?? operators[0]!;
  return (
    <>
      <Choice
        label={`${field.label}: comparison`}
        value={condition.op}
        options={operators.map(({ op, label }) => ({ id: op, name: label }))}
        onChange={(op) => {
          const next = operatorOf(op)!;
          const argument =
            next.asks === operator.asks ? condition.argument : emptyArgument(next.asks);
          onChange({ ...condition, op, argument: argument as never });
        }}
      />
      <Argument
        asks={operator.asks}
        label={`${field.label}: value`}
        field={field}
        records={vocabulary.records}
        value={condition.argument}
        problem={problem}
        onChange={(argument) => onChange({ ...condition, argument: argument as never })}
      />
    </>
  );
}

const SPANS = [
  { id: "ever", name: "ever" },
  { id: "last", name: "within the last" },
  { id: "dates", name: "between two dates" },
] as const;

function When({ condition, onChange }: Pick<Props<Keyed<ActivityTest>>, "condition" | "onChange">) {
  const { when } = condition;
  const kind = when === null ? "ever" : "last" in when ? "last" : "dates";
  const set = (next: ActivityTest["when"]) => onChange({ ...condition, when: next });
  return (
    <>
      <Choice
        label="When"
        value={kind}
        options={SPANS}
        onChange={(next) =>
          set(next === "last" ? { last: 90 } : next === "dates" ? { from: null, to: null } : null)
        }
      />
      {when !== null && "last" in when && (
        <span className="flex items-center gap-1.5">
          <input
            type="number"
            aria-label="How many days"
            min={1}
            value={when.last || ""}
            onChange={(event) => set({ last: Number(event.target.value) })}
            className={INPUT.replace("w-full", "w-20")}
          />{" "}
          days
        </span>
      )}
      {when !== null &&
        "from" in when &&
        (["from", "to"] as const).map((end) => (
          <input
            key={end}
            type="date"
            aria-label={end === "from" ? "From" : "To"}
            value={when[end] ?? ""}
            onChange={(event) => set({ ...when, [end]: event.target.value || null })}
            className={INPUT.replace("w-full", "w-40")}
          />
        ))}
    </>
  );
}

const OFTEN = [
  { id: "once", name: "at least once" },
  { id: "never", name: "never" },
  { id: "atLeast", name: "at least" },
  { id: "atMost", name: "at most" },
] as const;

function Times({
  condition,
  onChange,
}: Pick<Props<Keyed<ActivityTest>>, "condition" | "onChange">) {
  const { op, count } = condition.times;
  const kind =
    op === "atLeast" && count === 1 ? "once" : op === "atMost" && count === 0 ? "never" : op;
  const set = (next: ActivityTest["times"]) => onChange({ ...condition, times: next });
  return (
    <>
      <Choice
        label="How often"
        value={kind}
        options={OFTEN}
        onChange={(next) => {
          if (next === "once") set({ op: "atLeast", count: 1 });
          else if (next === "never") set({ op: "atMost", count: 0 });
          else set({ op: next as "atLeast" | "atMost", count: 2 });
        }}
      />
      {kind === op && (
        <span className="flex items-center gap-1.5">
          <input
            type="number"
            aria-label="How many times"
            min={0}
            value={count}
            onChange={(event) => set({ op, count: Number(event.target.value) })}
            className={INPUT.replace("w-full", "w-20")}
          />{" "}
          times
        </span>
      )}
    </>
  );
}

function ActivityCondition({ condition, vocabulary, onChange }: Props<Keyed<ActivityTest>>) {
  const { did, campaign, link, item, group } = condition;
  const about = did === "bought" ? vocabulary.products : vocabulary.questions;
  const chosen = about.find(({ id }) => id === item);
  const groups = chosen
    ? chosen.classes
    : [...new Set(about.flatMap(({ classes }) => classes))].sort();
  const links = vocabulary.campaigns.find(({ id }) => id === campaign)?.links ?? [];
  return (
    <>
      {DEEDS[did].perEmail ? (
        <Choice
          label="Which email"
          any="any email"
          value={campaign ?? ""}
          options={vocabulary.campaigns}
          onChange={(next) => onChange({ ...condition, campaign: next || null, link: null })}
        />
      ) : (
        <>
          <Choice
            label={did === "bought" ? "Which product" : "Which question"}
            any={did === "bought" ? "any product" : "any question"}
            value={item ?? ""}
            options={about}
            onChange={(next) => onChange({ ...condition, item: next || null, group: null })}
          />
          {!(did === "bought" && item) && (
            <Choice
              label={did === "bought" ? "Which category" : "Which answer"}
              any={did === "bought" ? "of any category" : "any answer"}
              value={group ?? ""}
              options={groups.map((name) => ({ id: name, name }))}
              onChange={(next) => onChange({ ...condition, group: next || null })}
            />
          )}
        </>
      )}
      {did === "clicked" && campaign && (
        <Choice
          label="Which link"
          any="any link"
          value={link ? String(link) : ""}
          options={links.map((name, i) => ({ id: String(i + 1), name: name || `Link ${i + 1}` }))}
          onChange={(next) => onChange({ ...condition, link: next ? Number(next) : null })}
        />
      )}
      <Times condition={condition} onChange={onChange} />
      <When condition={condition} onChange={onChange} />
    </>
  );
}

const BEING = [
  { id: "in", name: "is in" },
  { id: "out", name: "is not in" },
];

/** The controls of a condition behind what it is about. */
export function Condition(props: Props<DraftCondition>) {
  const { condition, vocabulary, onChange } = props;
  switch (condition.type) {
    case "field":
      return <FieldCondition {...props} condition={condition} />;
    case "activity":
      return <ActivityCondition {...props} condition={condition} />;
    case "list":
    case "segment": {
      const list = condition.type === "list";
      return (
        <>
          <Choice
            label={list ? "On the list or not" : "In the segment or not"}
            value={condition.is ? "in" : "out"}
            options={BEING}
            onChange={(next) => onChange({ ...condition, is: next === "in" })}
          />
          <Choice
            label={list ? "Which list" : "Which segment"}
            value={list ? condition.list : condition.segment}
            options={list ? vocabulary.lists : vocabulary.segments}
            onChange={(id) =>
              onChange(
                condition.type === "list"
                  ? { ...condition, list: id }
                  : { ...condition, segment: id },
              )
            }
          />
        </>
      );
    }
  }
}
