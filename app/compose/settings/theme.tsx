/** The theme of this email: its colours, light and dark, and its fonts. */
import { useEffect, useState } from "react";
import type { Json } from "#core/json.ts";
import type { Theme } from "#core/theme/theme.ts";
import { answerTo } from "../../ask.ts";
import { ThemeFields } from "../../theming/theme-fields.tsx";
import { Field } from "../../ui/field.tsx";
import { Select } from "../../ui/select.tsx";
import { useCommands } from "../doing/commands.ts";
import { useReading } from "../reading/reading.ts";
import { Section } from "./parts.tsx";

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
  return (
    <Section title="Theme of this email">
      <OtherThemes theme={theme} set={set} />
      <ThemeFields theme={theme} onTheme={set} />
    </Section>
  );
}
