/** What the checks find about the selection. */
import clsx from "clsx";
import { whoGets } from "#core/checks/order.ts";
import { together } from "#core/document/index.ts";
import type { Finding } from "#core/kinds/kind.ts";
import { useToast } from "../../ui/toast.tsx";
import { useInspecting } from "../inspecting/findings.ts";
import { useSelecting } from "../selection/selection.ts";
import { useSession } from "../session/session.ts";
import { leadToField } from "./to-field.ts";

const EDGES = { stop: "border-rust", look: "border-saffron", hint: "border-line-strong" };

export function FindingsNote({ findings }: { findings: readonly Finding[] }) {
  const selection = useSelecting();
  const session = useSession();
  const inspecting = useInspecting();
  const say = useToast();
  const accept = async (word: string) => {
    const problem = await inspecting.accept(word);
    say(problem ?? `“${word}” is one of our words`, problem ? "wrong" : "plain");
  };
  return (
    <ul aria-label="Found by the checks" className="flex flex-col gap-1.5">
      {findings.map(
        ({ check, message, detail, severity, at, in: field, mends, word, people }, i) => (
          <li
            key={`${check}${i}`}
            className={clsx(
              "rounded-md border-l-[3px] bg-bench px-2.5 py-1.5 text-small",
              EDGES[severity],
            )}
          >
            {field ? (
              <button
                type="button"
                title="Go there"
                className="block text-left font-bold hover:underline"
                onClick={() => leadToField(field.join("."), at, selection)}
              >
                {message}
              </button>
            ) : (
              <strong className="block">{message}</strong>
            )}
            <span className="text-ink-2">
              {detail} {whoGets({ people })}
            </span>
            {word && (
              <button
                type="button"
                className="link mr-3 block font-semibold"
                onClick={() => void accept(word)}
              >
                It is right
              </button>
            )}
            {mends?.map(({ label, edits }) => (
              <button
                key={label}
                type="button"
                className="link mr-3 block font-semibold"
                onClick={() => session.edit(together(edits))}
              >
                {label}
              </button>
            ))}
          </li>
        ),
      )}
    </ul>
  );
}
