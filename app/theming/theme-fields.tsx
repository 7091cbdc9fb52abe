/** All that a theme says: its colours, fonts, sizes and corners. In the composer it is the email's, in the library the house's. */
import { useRef, useState } from "react";
import { sameJson } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import {
  FONTS,
  type FontName,
  type Palette,
  spacingIn,
  spacingOf,
  type Theme,
} from "#core/theme/theme.ts";
import { NO_LINE } from "../ask.ts";
import { Checkbox } from "../ui/checkbox.tsx";
import { Field, INPUT } from "../ui/field.tsx";
import { NumberField } from "../ui/number-field.tsx";
import { Select } from "../ui/select.tsx";
import { useToast } from "../ui/toast.tsx";
import { ColourFields } from "./colour-fields.tsx";
import { WebFontFields } from "./web-font-fields.tsx";

/** The steps of spacing, and how wide new emails are. */
function SpacingFields({ theme, onTheme }: { theme: Theme; onTheme: (theme: Theme) => void }) {
  const [draft, setDraft] = useState<string | null>(null);
  const steps = draft === null ? null : spacingIn(draft);
  const wrong = draft !== null && steps === null;
  const { min, max, standard } = LIMITS.emailWidth;
  return (
    <div className="grid grid-cols-2 gap-2.5">
      <Field
        label="Spacing steps, px"
        errors={
          wrong ? [`Up to ${LIMITS.spacingSteps} whole numbers, 0 to ${LIMITS.padding}.`] : null
        }
      >
        {(ids) => (
          <input
            {...ids}
            value={draft ?? spacingOf(theme).join(", ")}
            className={INPUT}
            onChange={({ target }) => setDraft(target.value)}
            onBlur={() => {
              if (wrong) return;
              if (steps && !sameJson(steps, [...spacingOf(theme)])) {
                onTheme({ ...theme, spacing: steps });
              }
              setDraft(null);
            }}
          />
        )}
      </Field>
      <NumberField
        label="Width of new emails"
        unit="px"
        value={theme.width ?? standard}
        min={min}
        max={max}
        onValue={(width) => width !== null && onTheme({ ...theme, width })}
      />
    </div>
  );
}

export function ThemeFields({ theme, onTheme }: { theme: Theme; onTheme: (theme: Theme) => void }) {
  const font = (role: "heading" | "body", label: string) => (
    <Field label={label}>
      {(ids) => (
        <Select
          {...ids}
          value={theme.fonts[role]}
          options={Object.entries(FONTS).map(([value, { label }]) => ({
            value: value as FontName,
            label,
          }))}
          onValue={(font) => font && onTheme({ ...theme, fonts: { ...theme.fonts, [role]: font } })}
        />
      )}
    </Field>
  );
  const size = (name: keyof Theme["type"], label: string, min: number, max: number) => (
    <NumberField
      label={label}
      unit="px"
      value={theme.type[name]}
      min={min}
      max={max}
      onValue={(px) => px !== null && onTheme({ ...theme, type: { ...theme.type, [name]: px } })}
    />
  );
  const latest = useRef(theme);
  latest.current = theme;
  // Who turns it off and on again finds the colours that were there, unless they are those of other light ones.
  const before = useRef<Pick<Theme, "colours" | "dark">>(null);
  const say = useToast();
  function turnDark(on: boolean): void {
    const turn = (dark: Palette | null) => onTheme({ ...latest.current, dark });
    if (!on) {
      before.current = theme;
      turn(null);
    } else if (before.current && sameJson(before.current.colours, theme.colours)) {
      turn(before.current.dark);
    } else {
      import("#core/theme/proposal.ts").then(
        ({ darkFor }) => turn(darkFor(latest.current.colours)),
        () => say(NO_LINE),
      );
    }
  }
  return (
    <>
      <Checkbox
        label="Colours of its own in dark mail programs"
        className="text-small"
        checked={theme.dark !== null}
        onChange={({ target }) => turnDark(target.checked)}
      />
      <ColourFields theme={theme} onTheme={onTheme} />
      <div className="grid grid-cols-2 gap-2.5">
        {font("heading", "Heading font")}
        {font("body", "Text font")}
        {size("heading1", "Heading 1", 16, 64)}
        {size("heading2", "Heading 2", 14, 48)}
        {size("heading3", "Heading 3", 12, 36)}
        {size("body", "Body text", 12, 24)}
        <NumberField
          label="Corners"
          unit="px"
          value={theme.corner}
          min={0}
          max={40}
          onValue={(corner) => corner !== null && onTheme({ ...theme, corner })}
        />
      </div>
      <SpacingFields theme={theme} onTheme={onTheme} />
      <WebFontFields of="heading" theme={theme} set={onTheme} />
      <WebFontFields of="body" theme={theme} set={onTheme} />
    </>
  );
}
