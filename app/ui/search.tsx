import { Search } from "lucide-react";
import { type ReactNode, useEffect, useRef } from "react";
import { useSubmit } from "react-router";
import { INPUT } from "./field.tsx";
import { Form } from "./form.tsx";

/** How long a hand rests before the list follows, ms. */
const REST = 180;

/** A search over a list: the list follows while one types. More fields may stand beside it. */
export function SearchForm({
  label,
  hint,
  search,
  children,
}: {
  label: string;
  hint: string;
  search: string;
  children?: ReactNode;
}) {
  const submit = useSubmit();
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  /** The list follows once the hand rests. */
  const later = (form: HTMLFormElement) => {
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void submit(form, { replace: true }), REST);
  };
  return (
    <Form
      method="get"
      role="search"
      className="flex flex-wrap gap-2"
      onChange={(event) => {
        const { name } = event.target as unknown as { name?: string };
        if (name) later(event.currentTarget);
      }}
    >
      <label className="relative block">
        <span className="sr-only">{label}</span>
        <Search className="absolute top-2 left-2 size-4 text-ink-3" aria-hidden />
        <input
          name="search"
          defaultValue={search}
          placeholder={hint}
          className={`${INPUT} w-60! pl-7.5`}
        />
      </label>
      {children}
    </Form>
  );
}
