/** Builds a rule: groups within groups, conditions in them. The one builder, wherever a rule is written. */
import clsx from "clsx";
import { FolderPlus, Plus, X } from "lucide-react";
import { useMemo, useState } from "react";
import { LIMITS } from "#core/limits.ts";
import { type Group, ruleSchema } from "#core/rules/index.ts";
import { Buttonlike, IconButton } from "../ui/button.tsx";
import { PickList } from "../ui/pick-list.tsx";
import { Popover } from "../ui/popover.tsx";
import { Select } from "../ui/select.tsx";
import { Condition } from "./conditions.tsx";
import {
  addTo,
  change,
  type Draft,
  type DraftCondition,
  type DraftGroup,
  isDraftGroup,
  newGroup,
  ruleOf,
} from "./draft.ts";
import { type Subject, subjectId, subjectsOf, type Vocabulary } from "./vocabulary.ts";

const GROUPS: readonly { value: Group["type"]; label: string }[] = [
  { value: "all", label: "All of these hold" },
  { value: "any", label: "Any of these holds" },
  { value: "none", label: "None of these holds" },
];

/** What is wrong with a condition as it is written, or null. */
function problemOf(condition: DraftCondition): string | null {
  const result = ruleSchema.safeParse(ruleOf(condition));
  return result.success ? null : (result.error.issues[0]?.message ?? "This does not fit.");
}

function AddCondition({
  subjects,
  onAdd,
}: {
  subjects: readonly Subject[];
  onAdd: (part: Draft) => void;
}) {
  const [open, setOpen] = useState(false);
  const groups = [...new Set(subjects.map(({ group }) => group))];
  return (
    <Popover
      label="What the condition is about"
      open={open}
      onOpenChange={setOpen}
      trigger={
        <Buttonlike type="button">
          <Plus className="size-3.5" /> Condition
        </Buttonlike>
      }
    >
      <PickList
        label="What the condition is about"
        hint="Find a field, an action, a list"
        empty="No matches."
        groups={groups.map((name) => ({
          name,
          items: subjects
            .filter(({ group }) => group === name)
            .map((subject) => ({
              key: subject.id,
              label: subject.label,
              other: subject.other,
              onPick() {
                setOpen(false);
                onAdd(subject.make());
              },
            })),
        }))}
      />
    </Popover>
  );
}

interface PartProps {
  subjects: readonly Subject[];
  vocabulary: Vocabulary;
  depth: number;
  onChange: (key: string, to: (part: Draft) => Draft | null) => void;
  onAdd: (group: string, part: Draft) => void;
}

function ConditionRow({ part, ...rest }: PartProps & { part: DraftCondition }) {
  const { subjects, vocabulary, onChange } = rest;
  const about = subjects.find(({ id }) => id === subjectId(part));
  const problem = problemOf(part);
  /** Nothing is called wrong while it is being written for the first time. */
  const [left, setLeft] = useState(false);
  return (
    <li
      className="border-b py-2 last:border-b-0"
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) setLeft(true);
      }}
    >
      <div className="flex items-start gap-1.5">
        <div className="flex flex-1 flex-wrap items-center gap-1.5">
          <span className="mr-0.5 font-semibold">{about?.label ?? "Something that is gone"}</span>
          <Condition
            condition={part}
            vocabulary={vocabulary}
            problem={left ? problem : null}
            onChange={(next) => onChange(part.key, () => next)}
          />
        </div>
        <IconButton
          label={`Take out: ${about?.label ?? "this condition"}`}
          className="mt-0.5 flex-none"
          onClick={() => onChange(part.key, () => null)}
        >
          <X />
        </IconButton>
      </div>
      {problem && (
        <p className={clsx("mt-1 text-small", left ? "text-rust" : "text-ink-3")}>{problem}</p>
      )}
    </li>
  );
}

function GroupBox({ part, ...rest }: PartProps & { part: DraftGroup }) {
  const { depth, onChange, onAdd, subjects, vocabulary } = rest;
  const outer = depth === 1;
  return (
    <fieldset className={outer ? "" : "my-1 border-plum border-l-2 pl-3"}>
      <legend className="sr-only">{GROUPS.find(({ value }) => value === part.type)!.label}</legend>
      <div className="flex items-center gap-2">
        <Select
          label="How these conditions go together"
          value={part.type}
          options={GROUPS}
          onValue={(type) =>
            type && onChange(part.key, (found) => ({ ...(found as DraftGroup), type }))
          }
          look="rounded-md border border-transparent py-1 pr-1 font-display text-title text-plum! hover:border-field"
          className="w-auto"
        />
        {!outer && (
          <IconButton
            label="Take out this group"
            className="ml-auto"
            onClick={() => onChange(part.key, () => null)}
          >
            <X />
          </IconButton>
        )}
      </div>
      {part.rules.length === 0 && (
        <p className="py-1.5 text-ink-3">
          {part.type === "any"
            ? `${vocabulary.only ? "None" : "Nobody"} yet: add a condition.`
            : `${vocabulary.only ? "All of them" : "Everybody"}: add a condition.`}
        </p>
      )}
      <ul>
        {part.rules.map((inner) =>
          isDraftGroup(inner) ? (
            <li key={inner.key}>
              <GroupBox {...rest} part={inner} depth={depth + 1} />
            </li>
          ) : (
            <ConditionRow key={inner.key} {...rest} part={inner} />
          ),
        )}
      </ul>
      <div className="flex gap-1.5 py-1.5">
        <AddCondition subjects={subjects} onAdd={(made) => onAdd(part.key, made)} />
        {depth < LIMITS.rulesDepth && (
          <Buttonlike type="button" onClick={() => onAdd(part.key, newGroup())}>
            <FolderPlus className="size-3.5" /> Group
          </Buttonlike>
        )}
      </div>
    </fieldset>
  );
}

export function RuleBuilder({
  draft,
  vocabulary,
  onChange,
}: {
  draft: DraftGroup;
  vocabulary: Vocabulary;
  onChange: (draft: DraftGroup) => void;
}) {
  const subjects = useMemo(() => subjectsOf(vocabulary), [vocabulary]);
  return (
    <GroupBox
      part={draft}
      subjects={subjects}
      vocabulary={vocabulary}
      depth={1}
      onChange={(key, to) => onChange(change(draft, key, to))}
      onAdd={(group, part) => onChange(addTo(draft, group, part))}
    />
  );
}
