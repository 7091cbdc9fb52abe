/** One condition of a rule, by its kind. */
import {
  type ActivityTest,
  type DeedName,
  type FieldTest,
  OPERATORS_BY_TYPE,
  operatorOf,
} from "#core/rules/index.ts";
import { DayInput } from "../ui/day-field.tsx";
import { finderOf } from "../ui/finder.ts";
import { NumberInput } from "../ui/number-input.tsx";
import { Select } from "../ui/select.tsx";
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

/** Within a line of other controls. */
const INLINE = "w-auto max-w-64";

type Keyed<T> = T & { readonly key: string };

function FieldCondition({ condition, vocabulary, problem, onChange }: Props<Keyed<FieldTest>>) {
  const field = vocabulary.fields.find(({ path }) => path === condition.field);
  if (!field) return <span className="text-rust">names a field that is gone</span>;
  const operators = OPERATORS_BY_TYPE[field.type];
  const operator = operatorOf(condition.op) ?? operators[0]!;
  return (
    <>
      <Select
        label={`${field.label}: comparison`}
        value={condition.op}
        options={operators.map(({ op, label }) => ({ value: op, label }))}
        className={INLINE}
        onValue={(op) => {
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
        value={condition.argument}
        problem={problem}
        onChange={(argument) => onChange({ ...condition, argument: argument as never })}
      />
    </>
  );
}

const SPANS = [
  { value: "ever", label: "ever" },
  { value: "last", label: "within the last" },
  { value: "dates", label: "between two dates" },
] as const;

function When({ condition, onChange }: Pick<Props<Keyed<ActivityTest>>, "condition" | "onChange">) {
  const { when } = condition;
  const kind = when === null ? "ever" : "last" in when ? "last" : "dates";
  const set = (next: ActivityTest["when"]) => onChange({ ...condition, when: next });
  return (
    <>
      <Select
        label="When"
        value={kind}
        options={SPANS}
        className={INLINE}
        onValue={(next) =>
          set(next === "last" ? { last: 90 } : next === "dates" ? { from: null, to: null } : null)
        }
      />
      {when !== null && "last" in when && (
        <span className="flex items-center gap-1.5">
          <NumberInput
            label="How many days"
            min={1}
            value={when.last || null}
            onValue={(last) => set({ last: last ?? 0 })}
            className="w-20"
          />{" "}
          days
        </span>
      )}
      {when !== null &&
        "from" in when &&
        (["from", "to"] as const).map((end) => (
          <DayInput
            key={end}
            label={end === "from" ? "From" : "To"}
            initial={when[end] ?? ""}
            onDay={(day) => set({ ...when, [end]: day || null })}
            className="w-40"
          />
        ))}
    </>
  );
}

const OFTEN = [
  { value: "once", label: "at least once" },
  { value: "never", label: "never" },
  { value: "atLeast", label: "at least" },
  { value: "atMost", label: "at most" },
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
      <Select
        label="How often"
        value={kind}
        options={OFTEN}
        className={INLINE}
        onValue={(next) => {
          if (next === "once") set({ op: "atLeast", count: 1 });
          else if (next === "never") set({ op: "atMost", count: 0 });
          else set({ op: next as "atLeast" | "atMost", count: 2 });
        }}
      />
      {kind === op && (
        <span className="flex items-center gap-1.5">
          <NumberInput
            label="How many times"
            min={0}
            value={count}
            onValue={(times) => set({ op, count: times ?? 0 })}
            className="w-20"
          />{" "}
          times
        </span>
      )}
    </>
  );
}

/** What a deed that is not about an email is about, and how it and its classes are called. */
const PRODUCTS = {
  what: "products",
  which: "Which product",
  any: "any product",
  group: "Which category",
  anyGroup: "of any category",
  /** Whose categories, where no single one is named. */
  classes: "bought",
} as const;
const ABOUT = {
  bought: PRODUCTS,
  viewed: PRODUCTS,
  answered: {
    what: "questions",
    which: "Which question",
    any: "any question",
    group: "Which answer",
    anyGroup: "any answer",
    classes: "answered",
  },
} as const satisfies Partial<Record<DeedName, object>>;

function ActivityCondition({ condition, onChange }: Props<Keyed<ActivityTest>>) {
  const { did, campaign, link, item, group } = condition;
  const about = did in ABOUT ? ABOUT[did as keyof typeof ABOUT] : null;
  return (
    <>
      {about ? (
        <>
          <Select
            label={about.which}
            none={about.any}
            value={item ?? ""}
            options={[]}
            finder={finderOf(about.what)}
            onValue={(next) => onChange({ ...condition, item: next || null, group: null })}
            className={INLINE}
          />
          {!(about === PRODUCTS && item) && (
            <Select
              label={about.group}
              none={about.anyGroup}
              value={group ?? ""}
              options={[]}
              finder={finderOf("classes", item ?? about.classes)}
              onValue={(next) => onChange({ ...condition, group: next || null })}
              className={INLINE}
            />
          )}
        </>
      ) : (
        <Select
          label="Which email"
          none="any email"
          value={campaign ?? ""}
          options={[]}
          finder={finderOf("campaigns")}
          onValue={(next) => onChange({ ...condition, campaign: next || null, link: null })}
          className={INLINE}
        />
      )}
      {did === "clicked" && campaign && (
        <Select
          label="Which link"
          none="any link"
          value={link ? String(link) : ""}
          options={[]}
          finder={finderOf("links", campaign)}
          onValue={(next) => onChange({ ...condition, link: next ? Number(next) : null })}
          className={INLINE}
        />
      )}
      <Times condition={condition} onChange={onChange} />
      <When condition={condition} onChange={onChange} />
    </>
  );
}

const BEING = [
  { value: "in", label: "is in" },
  { value: "out", label: "is not in" },
];

/** The controls of a condition behind what it is about. */
export function Condition(props: Props<DraftCondition>) {
  const { condition, onChange } = props;
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
          <Select
            label={list ? "On the list or not" : "In the segment or not"}
            value={condition.is ? "in" : "out"}
            options={BEING}
            className={INLINE}
            onValue={(next) => onChange({ ...condition, is: next === "in" })}
          />
          <Select
            label={list ? "Which list" : "Which segment"}
            value={list ? condition.list : condition.segment}
            options={[]}
            finder={finderOf(list ? "lists" : "segments")}
            className={INLINE}
            onValue={(id) =>
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
