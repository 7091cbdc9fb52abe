/** Things a condition can be about, in the order they are offered. */
import { DEEDS, type DeedName, OPERATORS_BY_TYPE, type Rule } from "#core/rules/index.ts";
import type { Vocabulary } from "#server/audience/vocabulary.ts";
import { type Draft, type DraftCondition, newActivity, newCondition } from "./draft.ts";

export type { Vocabulary };

export interface Subject {
  readonly id: string;
  readonly label: string;
  readonly group: string;
  /** Other words it is found by. */
  readonly other: string;
  make(): Draft;
}

/** What people type when they mean a deed. */
const DEED_WORDS: Readonly<Record<DeedName, string>> = {
  sent: "email campaign got received delivered",
  opened: "email campaign open read seen",
  clicked: "email campaign link click",
  bought: "order purchase product revenue sale",
  viewed: "view browse product visit",
  answered: "survey question poll reply",
};

const firstOperator = (type: keyof typeof OPERATORS_BY_TYPE) => OPERATORS_BY_TYPE[type][0]!;

/** What an argument is before anybody filled it in; it does not fit yet where something has to be written. */
export function emptyArgument(asks: string): unknown {
  if (asks === "nothing") return null;
  if (asks === "days") return 30;
  if (asks === "several words") return [];
  if (asks === "near") return { lat: null, lon: null, km: 25, name: "" };
  if (asks.startsWith("two")) return [null, null];
  return asks === "words" || asks === "date" ? "" : null;
}

export function subjectsOf(vocabulary: Vocabulary): Subject[] {
  const fields = vocabulary.fields.map(({ path, label, type }): Subject => {
    const operator = firstOperator(type);
    const make = () =>
      newCondition({
        type: "field",
        field: path,
        op: operator.op,
        argument: emptyArgument(operator.asks) as never,
      });
    return { id: `field:${path}`, label, other: path, group: "Fields", make };
  });
  const deeds = (Object.keys(DEEDS) as DeedName[]).map(
    (did): Subject => ({
      id: `activity:${did}`,
      label: DEEDS[did].label,
      other: DEED_WORDS[did],
      group: "What they did",
      make: () => newActivity(did),
    }),
  );
  const other: Subject[] = [
    {
      id: "list",
      label: "is on a list",
      other: "lists member audience",
      group: "Lists and segments",
      make: () => newCondition({ type: "list", list: "", is: true } as Rule),
    },
    {
      id: "segment",
      label: "is in a segment",
      other: "segments group audience",
      group: "Lists and segments",
      make: () => newCondition({ type: "segment", segment: "", is: true } as Rule),
    },
  ];
  return vocabulary.only ? fields : [...fields, ...deeds, ...other];
}

/** The subject a condition is about. */
export function subjectId(condition: DraftCondition): string {
  if (condition.type === "field") return `field:${condition.field}`;
  return condition.type === "activity" ? `activity:${condition.did}` : condition.type;
}
