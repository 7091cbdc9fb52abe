/** The one form pattern: a labelled field with its hint and what is wrong with it. */
import type { FieldMetadata } from "@conform-to/react";
import clsx from "clsx";
import { type ComponentProps, type ReactNode, useId } from "react";
import { Select } from "./select.tsx";

export const INPUT = "field";

/** For the choice of a file. */
export const FILE_INPUT = "file-field";

/** A label over a control, with a hint and errors under it. The control gets their ids. */
export function Field({
  label,
  hint,
  errors,
  children,
  className,
}: {
  label: string;
  hint?: ReactNode;
  errors?: readonly string[] | null;
  className?: string;
  children: (ids: {
    id: string;
    "aria-describedby": string | undefined;
    "aria-invalid": true | undefined;
  }) => ReactNode;
}) {
  const id = useId();
  const wrong = errors && errors.length > 0;
  const described = [hint ? `${id}-hint` : "", wrong ? `${id}-error` : ""].filter(Boolean);
  return (
    <div className={className}>
      <label htmlFor={id} className="mb-1 block text-small text-ink-2">
        {label}
      </label>
      {children({
        id,
        "aria-describedby": described.join(" ") || undefined,
        "aria-invalid": wrong ? true : undefined,
      })}
      {hint && (
        <p id={`${id}-hint`} className="mt-1 text-small text-ink-3">
          {hint}
        </p>
      )}
      {wrong && (
        <p id={`${id}-error`} className="mt-1 text-small font-semibold text-rust" role="alert">
          {errors.join(" ")}
        </p>
      )}
    </div>
  );
}

type Meta = Pick<FieldMetadata<string | number>, "name" | "initialValue" | "errors">;
interface Common {
  meta: Meta;
  label: string;
  hint?: ReactNode;
  className?: string;
}
const initial = (meta: Meta) => (meta.initialValue as string | undefined) ?? "";

/** A text input of a form. */
export function TextField({
  meta,
  label,
  hint,
  className,
  ...rest
}: Common & Omit<ComponentProps<"input">, "className">) {
  return (
    <Field label={label} hint={hint} errors={meta.errors} className={className}>
      {(ids) => (
        <input {...ids} name={meta.name} defaultValue={initial(meta)} className={INPUT} {...rest} />
      )}
    </Field>
  );
}

/** A text of several lines. */
export function TextAreaField({
  meta,
  label,
  hint,
  className,
  ...rest
}: Common & Omit<ComponentProps<"textarea">, "className">) {
  return (
    <Field label={label} hint={hint} errors={meta.errors} className={className}>
      {(ids) => (
        <textarea
          {...ids}
          name={meta.name}
          defaultValue={initial(meta)}
          rows={3}
          className={INPUT}
          {...rest}
        />
      )}
    </Field>
  );
}

/** A file that is chosen; `errors` because a file comes back from no submission. */
export function FileField({
  label,
  hint,
  errors,
  ...rest
}: Pick<ComponentProps<typeof Field>, "label" | "hint" | "errors"> &
  Pick<ComponentProps<"input">, "name" | "accept" | "required">) {
  return (
    <Field label={label} hint={hint} errors={errors}>
      {(ids) => <input {...ids} {...rest} type="file" className={FILE_INPUT} />}
    </Field>
  );
}

/** A choice from a list. */
export function SelectField({
  meta,
  label,
  hint,
  className,
  ...choice
}: Common & Pick<ComponentProps<typeof Select>, "options" | "finder" | "autoFocus">) {
  return (
    <Field label={label} hint={hint} errors={meta.errors} className={className}>
      {(ids) => <Select {...ids} {...choice} name={meta.name} initial={initial(meta)} />}
    </Field>
  );
}

/** What is wrong with a form as a whole. */
export function FormErrors({ errors }: { errors?: readonly string[] | null }) {
  if (!errors?.length) return null;
  return (
    <p
      role="alert"
      className={clsx("rounded-md border border-rust px-3 py-2 font-semibold text-rust")}
    >
      {errors.join(" ")}
    </p>
  );
}
