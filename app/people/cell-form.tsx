/** A cell of the contacts table while somebody writes in it. */
import { useRef } from "react";
import type { Field } from "#core/fields/index.ts";
import { FieldInput } from "./field-input.tsx";

interface Props {
  field: Field;
  /** As it is stored, in words. */
  value: string;
  label: string;
  /**
   * Saves what was written over what was seen, in words. Says what is wrong, and gives whether it is saved; where
   * somebody else was quicker, what is there `now`.
   */
  onSave: (
    text: string,
    seen: string,
  ) => Promise<{ readonly saved: boolean; readonly now?: string }>;
  /** It is as it should be; `back` where the person stays in the table at this cell. */
  onEnd: (back: boolean) => void;
}

/** Enter and going elsewhere save what was written, once; Escape leaves the cell as it was. */
export function CellForm({ field, value, label, onSave, onEnd }: Props) {
  const form = useRef<HTMLFormElement>(null);
  // Closing takes the focus away, which is not going elsewhere.
  const closed = useRef(false);
  const seen = useRef(value);
  const name = `f.${field.id}`;
  const written = () => new FormData(form.current!).getAll(name).filter(Boolean).join("; ");
  const end = (back: boolean) => {
    closed.current = true;
    onEnd(back);
  };

  async function save(back: boolean) {
    if (closed.current) return;
    const text = written();
    if (text === seen.current) return end(back);
    closed.current = true;
    const { saved, now = seen.current } = await onSave(text, seen.current);
    seen.current = now;
    // Who wrote on meanwhile, on a slow line, goes on.
    closed.current = saved && (!form.current || written() === text);
    if (closed.current) end(back && !!form.current?.contains(document.activeElement));
  }

  return (
    <form
      ref={form}
      onSubmit={(event) => {
        event.preventDefault();
        void save(true);
      }}
      onBlur={({ currentTarget, relatedTarget }) => {
        // What opens over the page belongs to the cell.
        const over = relatedTarget?.closest("[data-radix-popper-content-wrapper]");
        if (!over && !currentTarget.contains(relatedTarget)) void save(false);
      }}
      onKeyDown={(event) => {
        if (event.key !== "Escape" || event.defaultPrevented) return;
        event.stopPropagation();
        end(true);
      }}
    >
      <FieldInput autoFocus aria-label={label} field={field} name={name} value={value} />
    </form>
  );
}
