import clsx from "clsx";
import { useState } from "react";
import { type Colour, HEX, type Theme } from "#core/theme/theme.ts";
import { useComposer } from "../../context.ts";
import { type Props, useValue } from "./control.ts";
import { RoleSwatches } from "./role-swatches.tsx";

export function ColourControl({ node, control }: Props<"colour">) {
  const { doc } = useComposer();
  const [value, set] = useValue<Colour | null>(node, control.path);
  const theme = doc.root.props.theme as unknown as Theme;
  const own = typeof value === "string" && value.startsWith("#");
  const [draft, setDraft] = useState<string | null>(null);
  const wrong = draft !== null && !HEX.test(draft.toLowerCase());
  return (
    <fieldset>
      <legend className="sr-only">{control.label}</legend>
      <div className="mb-1 flex items-center justify-between">
        <span aria-hidden className="text-[11.5px] text-ink-2">
          {control.label}
        </span>
        <span className="flex items-center gap-1.5">
          {control.none && (
            <button
              type="button"
              onClick={() => set(null)}
              aria-pressed={value === null}
              className={clsx(
                "rounded-full border border-line-strong px-2 text-[11px]",
                value === null && "outline-2 outline-plum outline-offset-1",
              )}
            >
              {control.none}
            </button>
          )}
          <input
            aria-label={`${control.label}, as # and six digits`}
            aria-invalid={wrong || undefined}
            placeholder="#"
            value={draft ?? (own ? value : "")}
            maxLength={7}
            className="hex w-[68px] rounded-md border border-field bg-sheet px-1.5 text-[11.5px] aria-invalid:border-rust"
            onChange={(event) => setDraft(event.target.value)}
            onBlur={() => {
              if (draft && !wrong) set(draft.toLowerCase());
              if (!wrong || draft === "") setDraft(null);
            }}
          />
        </span>
      </div>
      <div className="flex flex-wrap items-center gap-1">
        <RoleSwatches theme={theme} value={value} onChoose={set} />
      </div>
      {wrong && draft !== "" && (
        <p role="alert" className="mt-1 text-[12px] font-semibold text-rust">
          Written as # and six digits.
        </p>
      )}
    </fieldset>
  );
}
