/** The fields of a plain text by hand: what everybody gets, and before it other words for some readers. */
import { Trash2 } from "lucide-react";
import { useEffect, useState } from "react";
import { type HandText, handParts } from "#core/kinds/hand-text.ts";
import { LIMITS } from "#core/limits.ts";
import type { Rule } from "#core/rules/index.ts";
import { parseLiquid } from "#core/text/index.ts";
import { RuleDialog } from "../../rules/rule-dialog.tsx";
import { ruleWords } from "../../rules/words.ts";
import { Buttonlike, IconButton } from "../../ui/button.tsx";
import { Field, INPUT } from "../../ui/field.tsx";
import { useReading } from "../reading/reading.ts";
import { useSession } from "../session/session.ts";

interface WordsProps {
  label: string;
  value: string;
  placeholder?: string;
  onWritten: (value: string) => void;
}

/** One of the texts, stored when it is left. */
function Words({ label, value, placeholder, onWritten }: WordsProps) {
  const [draft, setDraft] = useState(value);
  useEffect(() => setDraft(value), [value]);
  const { problems } = parseLiquid(value);
  return (
    <Field
      label={label}
      hint="Merge tags are written as in Liquid."
      errors={problems.length ? [`No merge tag: ${problems.join(", ")}`] : null}
    >
      {(ids) => (
        <textarea
          {...ids}
          rows={6}
          maxLength={LIMITS.handText}
          value={draft}
          placeholder={placeholder}
          className={`${INPUT} font-mono text-fine leading-snug`}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={() => draft !== value && onWritten(draft)}
        />
      )}
    </Field>
  );
}

type Alternatives = NonNullable<HandText["alternatives"]>;

interface Props {
  /** What the text for everybody is called. */
  label: string;
  value: HandText;
  placeholder?: string;
  onChange: (value: HandText) => void;
}

export function HandWords({ label, value, placeholder, onChange }: Props) {
  const { campaign } = useSession();
  const { whoSees } = useReading("whoSees");
  const { alternatives = [] } = value;
  const put = (next: Alternatives) => {
    const { alternatives: _, ...rest } = value;
    onChange(next.length > 0 ? { ...rest, alternatives: next } : rest);
  };
  const change = (at: number, part: Partial<Alternatives[number]>) =>
    put(alternatives.map((one, i) => (i === at ? { ...one, ...part } : one)));
  const ruleDialog = (
    title: string,
    rule: Rule | null,
    trigger: string,
    onUse: (rule: Rule) => void,
  ) => (
    <RuleDialog
      title={title}
      rule={rule}
      use="Show it to them"
      campaign={campaign}
      onUse={onUse}
      trigger={<Buttonlike type="button">{trigger}</Buttonlike>}
    />
  );
  return (
    <>
      {handParts(value)
        .slice(0, -1)
        .map(({ seen, source }, i) => (
          <div
            key={i}
            data-hand-alternative
            className="flex flex-col gap-1.5 border-saffron border-l-[3px] pl-2.5"
          >
            <Words
              label={`For: ${ruleWords(seen.seenBy, whoSees, true)}`}
              value={source}
              onWritten={(written) => change(i, { source: written })}
            />
            <div className="flex items-center gap-2">
              {ruleDialog("Who gets this text", seen.seenBy, "Change the rule", (seenBy) =>
                change(i, { seenBy }),
              )}
              <IconButton
                label="Take this text away"
                onClick={() => put(alternatives.filter((_, at) => at !== i))}
              >
                <Trash2 />
              </IconButton>
            </div>
          </div>
        ))}
      <Words
        label={alternatives.length > 0 ? "For everybody else" : label}
        value={value.source}
        placeholder={placeholder}
        onWritten={(source) => onChange({ ...value, source })}
      />
      {alternatives.length < LIMITS.handTextAlternatives && (
        <div>
          {ruleDialog("Who gets another text", null, "Another text for some…", (seenBy) =>
            put([...alternatives, { seenBy, source: value.source }]),
          )}
        </div>
      )}
    </>
  );
}
