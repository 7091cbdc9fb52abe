/** A font of the house or of the web for headings or for running words, and what stands in for it. */
import { useEffect, useRef, useState } from "react";
import { LIMITS } from "#core/limits.ts";
import { fallbackFor } from "#core/theme/fallbacks.ts";
import { FONTS, ownFont, type Theme, webFontSchema } from "#core/theme/theme.ts";
import type { KeptFont } from "#server/store/fonts.ts";
import { answerTo } from "../ask.ts";
import { BringFile } from "../ui/bring-file.tsx";
import { Field, INPUT } from "../ui/field.tsx";
import { named, Select } from "../ui/select.tsx";

interface Fields {
  of: "heading" | "body";
  theme: Theme;
  set: (theme: Theme) => void;
}

/** What stands in, in words. */
function standIn({ measure }: KeptFont): string {
  const { font, wider, larger } = fallbackFor(measure);
  const than = (per: number, more: string, less: string) =>
    per === 0 ? null : `${Math.abs(per)} % ${per > 0 ? more : less}`;
  const how = [than(wider, "wider", "narrower"), than(larger, "larger", "smaller")].filter(Boolean);
  const like = how.length > 0 ? `, ${how.join(" and ")}` : ", which measures the same";
  return `Where it is not loaded, ${FONTS[font].label.toLowerCase()} is most like it${like}.`;
}

/** Fonts that were brought; and bringing one. */
function OwnFonts(fields: Fields) {
  const { of: role, theme } = fields;
  // Reading a file takes a while, in which the theme may have changed.
  const latest = useRef(fields);
  latest.current = fields;
  const [fonts, setFonts] = useState<readonly KeptFont[]>([]);
  useEffect(() => {
    let stale = false;
    void answerTo<{ fonts: KeptFont[] }>("/library/fonts").then((answer) => {
      if (answer && !stale) setFonts(answer.fonts);
    });
    return () => {
      stale = true;
    };
  }, []);
  const own = fonts.find(({ id }) => ownFont(id) === theme.webFonts[role]?.address);
  const use = (font: KeptFont | null) => {
    const { theme, set } = latest.current;
    set({
      ...theme,
      webFonts: {
        ...theme.webFonts,
        [role]: font && { family: font.family, address: ownFont(font.id) },
      },
      ...(font && {
        fonts: { ...theme.fonts, [role]: fallbackFor(font.measure).font },
      }),
    });
  };
  return (
    <>
      <Field label="Font of the house" hint={own && standIn(own)}>
        {(ids) => (
          <Select
            {...ids}
            value={own?.id ?? ""}
            none="none"
            options={named(fonts.map(({ id, family }) => ({ id, name: family })))}
            onValue={(id) => use(fonts.find((one) => one.id === id) ?? null)}
          />
        )}
      </Field>
      <BringFile<{ font: KeptFont }>
        to="/library/fonts"
        label="Another, from a file"
        hint="WOFF2, with the letters you need. Many programs show none: the font above stands in."
        accept=".woff2,font/woff2"
        most={LIMITS.fontBytes}
        onBrought={({ font }) => {
          setFonts((before) => [...before.filter(({ id }) => id !== font.id), font]);
          use(font);
        }}
      />
    </>
  );
}

/** One that is somewhere on the web. */
function FontOfTheWeb({ of: role, theme, set }: Fields) {
  const stored = theme.webFonts[role];
  const web = stored?.address.startsWith("https:") ? stored : null;
  const [family, setFamily] = useState(web?.family ?? "");
  const [address, setAddress] = useState(web?.address ?? "");
  const [errors, setErrors] = useState<string[]>([]);
  const save = () => {
    const webFonts = (font: Theme["webFonts"]["heading"]) => ({
      ...theme,
      webFonts: { ...theme.webFonts, [role]: font },
    });
    if (family.trim() === "" && address.trim() === "") {
      setErrors([]);
      if (web) set(webFonts(null));
      return;
    }
    const result = webFontSchema.safeParse({ family, address: address.trim() });
    setErrors(result.success ? [] : result.error.issues.map((issue) => issue.message));
    if (result.success && JSON.stringify(result.data) !== JSON.stringify(stored)) {
      set(webFonts(result.data));
    }
  };
  return (
    <details open={web !== null}>
      <summary className="cursor-pointer text-small text-ink-2">One from the web</summary>
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

export function WebFontFields(fields: Fields) {
  const [open, setOpen] = useState(fields.theme.webFonts[fields.of] !== null);
  return (
    <details open={open} onToggle={({ currentTarget }) => setOpen(currentTarget.open)}>
      <summary className="cursor-pointer text-small text-ink-2">
        A font of your own for {fields.of === "heading" ? "headings" : "body text"}
      </summary>
      {open && (
        <div className="mt-1.5 flex flex-col gap-2">
          <OwnFonts {...fields} />
          <FontOfTheWeb {...fields} />
        </div>
      )}
    </details>
  );
}
