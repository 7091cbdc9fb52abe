/** The theme of this email: its colours, light and dark, and its fonts. */
import { useEffect, useState } from "react";
import type { Json } from "#core/json.ts";
import {
  COLOUR_ROLES,
  type ColourRole,
  FONTS,
  type FontName,
  type Palette,
  STANDARD_THEME,
  type Theme,
  webFontSchema,
} from "#core/theme/theme.ts";
import { answerTo } from "../../ask.ts";
import { Checkbox } from "../../ui/checkbox.tsx";
import { ColourInput } from "../../ui/colour-input.tsx";
import { Field, INPUT } from "../../ui/field.tsx";
import { Select } from "../../ui/select.tsx";
import { useCommands } from "../doing/commands.ts";
import { useReading } from "../reading/reading.ts";
import { NumberField } from "./controls/number.tsx";
import { Section } from "./parts.tsx";

/** Names that fit beside two colours; the whole one stands in the hint. */
const SHORT: Record<ColourRole, string> = {
  ground: "Around",
  sheet: "Sheet",
  tint: "Tint",
  ink: "Text",
  quiet: "Quiet",
  accent: "Accent",
  onAccent: "On it",
  line: "Lines",
};
const ROLES = Object.entries(COLOUR_ROLES) as [ColourRole, string][];

function WebFontFields({
  of: role,
  theme,
  set,
}: {
  of: "heading" | "body";
  theme: Theme;
  set: (theme: Theme) => void;
}) {
  const stored = theme.webFonts[role];
  const [family, setFamily] = useState(stored?.family ?? "");
  const [address, setAddress] = useState(stored?.address ?? "");
  const [errors, setErrors] = useState<string[]>([]);
  const save = () => {
    const webFonts = (font: Theme["webFonts"]["heading"]) => ({
      ...theme,
      webFonts: { ...theme.webFonts, [role]: font },
    });
    if (family.trim() === "" && address.trim() === "") {
      setErrors([]);
      if (stored) set(webFonts(null));
      return;
    }
    const result = webFontSchema.safeParse({ family, address: address.trim() });
    setErrors(result.success ? [] : result.error.issues.map((issue) => issue.message));
    if (result.success && JSON.stringify(result.data) !== JSON.stringify(stored)) {
      set(webFonts(result.data));
    }
  };
  const name = role === "heading" ? "headings" : "body text";
  return (
    <details open={stored !== null}>
      <summary className="cursor-pointer text-small text-ink-2">A web font for {name}</summary>
      <div className="mt-1.5 flex flex-col gap-2">
        <Field label="Its name">
          {(ids) => (
            <input
              {...ids}
              value={family}
              maxLength={60}
              className={INPUT}
              onChange={(event) => setFamily(event.target.value)}
              onBlur={() => ((family && address) || (!family && !address) ? save() : undefined)}
            />
          )}
        </Field>
        <Field
          label="Address of its file"
          hint="Many programs show none; the font above stands in."
          errors={errors}
        >
          {(ids) => (
            <input
              {...ids}
              value={address}
              placeholder="https://…/font.woff2"
              className={INPUT}
              onChange={(event) => setAddress(event.target.value)}
              onBlur={save}
            />
          )}
        </Field>
      </div>
    </details>
  );
}

/** The themes of the house: one of them takes the place of the email's; what it says itself stays. */
function OtherThemes({ theme, set }: { theme: Theme; set: (theme: Theme) => void }) {
  const [themes, setThemes] = useState<readonly { key: string; theme: Theme }[]>([]);
  useEffect(() => {
    let stale = false;
    void answerTo<{ key: string; theme: Theme }[]>("/library/themes.json").then((answer) => {
      if (answer && !stale) setThemes(answer);
    });
    return () => {
      stale = true;
    };
  }, []);
  const spelled = (one: Theme) => JSON.stringify({ ...one, name: "" });
  const own = themes.find((one) => spelled(one.theme) === spelled(theme));
  if (themes.length === 0) return null;
  return (
    <Field label="Theme" hint="All of it changes on the sheets at once; Undo takes it back.">
      {(ids) => (
        <Select
          {...ids}
          value={own?.key ?? ""}
          hint={`${theme.name}, changed`}
          options={themes.map(({ key, theme: { name } }) => ({ value: key, label: name }))}
          onValue={(key) => {
            const found = themes.find((one) => one.key === key);
            if (found) set(found.theme);
          }}
        />
      )}
    </Field>
  );
}

export function ThemeSection() {
  const { doc } = useReading("doc");
  const { edit } = useCommands();
  const theme = doc.root.props.theme as unknown as Theme;
  const set = (value: Theme) =>
    edit({ type: "set", node: doc.root.id, path: ["theme"], value: value as unknown as Json });
  const setColour = (which: "colours" | "dark", role: ColourRole, hex: string) =>
    set({ ...theme, [which]: { ...(theme[which] as Palette), [role]: hex } });
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
          onValue={(font) => font && set({ ...theme, fonts: { ...theme.fonts, [role]: font } })}
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
      onValue={(px) => px !== null && set({ ...theme, type: { ...theme.type, [name]: px } })}
    />
  );
  return (
    <Section title="Theme of this email">
      <OtherThemes theme={theme} set={set} />
      <Checkbox
        label="Colours of its own in dark mail programs"
        className="text-small"
        checked={theme.dark !== null}
        onChange={(event) =>
          set({ ...theme, dark: event.target.checked ? STANDARD_THEME.dark : null })
        }
      />
      <table className="w-full text-small">
        <thead>
          <tr className="text-left text-ink-2">
            <th className="font-normal">Role</th>
            <th className="font-normal">Light</th>
            {theme.dark && <th className="font-normal">Dark</th>}
          </tr>
        </thead>
        <tbody>
          {ROLES.map(([role, label]) => (
            <tr key={role}>
              <th scope="row" title={label} className="pr-1 text-left font-normal">
                {SHORT[role]}
              </th>
              <td className="py-0.5">
                <ColourInput
                  label={`${label}, light`}
                  value={theme.colours[role]}
                  onValue={(hex) => setColour("colours", role, hex)}
                />
              </td>
              {theme.dark && (
                <td className="py-0.5">
                  <ColourInput
                    label={`${label}, dark`}
                    value={theme.dark[role]}
                    onValue={(hex) => setColour("dark", role, hex)}
                  />
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      <div className="grid grid-cols-2 gap-2.5">
        {font("heading", "Heading font")}
        {font("body", "Text font")}
        {size("heading1", "Heading 1", 16, 64)}
        {size("heading2", "Heading 2", 14, 48)}
        {size("heading3", "Heading 3", 12, 36)}
        {size("body", "Body text", 12, 24)}
      </div>
      <WebFontFields of="heading" theme={theme} set={set} />
      <WebFontFields of="body" theme={theme} set={set} />
    </Section>
  );
}
