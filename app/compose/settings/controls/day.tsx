import { dayInWords, isoDayOf } from "#core/schedule/day.ts";
import { DayInput, useDayLanguage } from "../../../ui/day-field.tsx";
import { Field } from "../../../ui/field.tsx";
import { type Props, useValue } from "./control.ts";

/** A day: what is no day stays as it was typed, and nothing is set. */
export function DayControl({ node, control }: Props<"day">) {
  const [day, set] = useValue<string | null>(node, control.path);
  const language = useDayLanguage();
  return (
    <Field label={control.label} hint={day ? dayInWords(day, language) : control.hint}>
      {(ids) => (
        <DayInput
          {...ids}
          key={node.id}
          label={control.label}
          initial={day ?? ""}
          onDay={(typed) => {
            if (typed === "") set(null);
            else if (isoDayOf(typed)) set(typed);
          }}
        />
      )}
    </Field>
  );
}
