import type { EmailProps } from "../blocks/layout.ts";
import type { Finding } from "../kinds/kind.ts";
import { languageName, stateOf, translatables } from "../languages/index.ts";
import type { Check } from "./check.ts";

/** Texts that readers of another language would get in the main one, or as they were before a change. */
export const languages: Check = {
  id: "languages",
  run({ doc, fields }) {
    const { others, languageField } = doc.root.props as unknown as EmailProps;
    const findings: Finding[] = [];
    const add = (severity: Finding["severity"], message: string, detail: string, at: string) =>
      findings.push({ check: "languages", severity, message, detail, at });
    if (others.length > 0 && (languageField === null || !fields.has(languageField))) {
      add(
        "stop",
        "Nobody would get another language",
        "Choose the field that says which language a reader gets.",
        "email",
      );
    }
    for (const lang of others) {
      const name = languageName(lang);
      const by = (state: string) =>
        translatables(doc).filter((one) => stateOf(one, lang) === state);
      const at = ({ node }: { node: { type: string; id: string } }) =>
        node.type === "email" ? "envelope" : node.id;
      const [missing, stale] = [by("missing"), by("stale")];
      if (missing.length > 0) {
        const texts = missing.length === 1 ? "One text is" : `${missing.length} texts are`;
        add("look", `${texts} not translated to ${name}`, missing[0]!.label, at(missing[0]!));
      }
      if (stale.length > 0) {
        const texts =
          stale.length === 1
            ? "One text has changed since its translation"
            : `${stale.length} texts have changed since their translation`;
        add("look", `${texts} to ${name}`, stale[0]!.label, at(stale[0]!));
      }
    }
    return findings;
  },
};
