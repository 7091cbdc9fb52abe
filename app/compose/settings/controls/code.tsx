import { lazy, Suspense, useEffect, useMemo, useState } from "react";
import { cleanHtml } from "#core/blocks/cleaner/clean-html.ts";
import { LIMITS } from "#core/limits.ts";
import { parseLiquid } from "#core/text/index.ts";
import { Field } from "../../../ui/field.tsx";
import { type Props, useValue } from "./control.ts";

const CodeEditor = lazy(() => import("../../../ui/code-editor.tsx"));

const HINT = 'Merge tags are written {{ contact.first_name | default: "friend" }}.';

/** HTML of one's own. It is saved as it is written; what an email cannot have is taken out and named. */
export default function CodeControl({ node, control }: Props<"code">) {
  const [source, set] = useValue<string>(node, control.path);
  const [draft, setDraft] = useState(source);
  useEffect(() => setDraft(source), [source]);
  const removed = useMemo(() => cleanHtml(source, node.id).removed, [source, node.id]);
  const problems = useMemo(() => parseLiquid(source).problems, [source]);
  const tooLong = draft.length > LIMITS.htmlSource;
  const save = () => {
    if (draft !== source && !tooLong) set(draft);
  };
  return (
    <div>
      <Field
        label={control.label}
        hint={HINT}
        errors={tooLong ? [`At most ${LIMITS.htmlSource.toLocaleString("en")} characters.`] : null}
      >
        {(ids) => (
          <Suspense fallback={<div className="h-40 rounded-md border border-field bg-sheet" />}>
            <CodeEditor
              {...ids}
              label={control.label}
              value={draft}
              onValue={setDraft}
              onDone={save}
            />
          </Suspense>
        )}
      </Field>
      <div role="status">
        {removed.length > 0 && (
          <div className="mt-2 rounded-md border border-saffron bg-saffron-soft p-2 text-small">
            <p className="font-semibold">
              Taken out, since mail programs would not run or show it:
            </p>
            <ul className="mt-1 list-disc pl-4 break-words">
              {removed.map((what) => (
                <li key={what}>{what}</li>
              ))}
            </ul>
          </div>
        )}
        {problems.length > 0 && (
          <p className="mt-2 text-small font-semibold text-rust">
            No merge tag, so readers see it as it is: {problems.join(", ")}
          </p>
        )}
      </div>
    </div>
  );
}
