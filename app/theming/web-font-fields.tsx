/** A font of the web for headings or for running words: its name, and where its file is. */
import { useState } from "react";
import { type Theme, webFontSchema } from "#core/theme/theme.ts";
import { Field, INPUT } from "../ui/field.tsx";

export function WebFontFields({
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
