/** What readers do with this email that is counted. */
import { countsOf, type EmailProps } from "#core/blocks/layout.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { Checkbox } from "../ui/checkbox.tsx";
import { useEdits } from "./edit.ts";

export function Counts({
  campaign,
  seq,
  doc,
}: {
  campaign: string;
  seq: number;
  doc: EmailDocument;
}) {
  const counts = countsOf(doc.root.props as unknown as EmailProps);
  const { busy, edit } = useEdits(campaign, seq);
  const change = (what: "opens" | "clicks") => {
    const value = { ...counts, [what]: !counts[what] };
    const set = { type: "set" as const, node: doc.root.id, path: ["counts"], value };
    void edit(
      [set],
      `${what === "opens" ? "Opens" : "Clicks"} are ${value[what] ? "counted" : "not counted"}`,
    );
  };
  return (
    <section aria-label="What is counted" className="mb-4 border bg-sheet px-3 py-2.5">
      <h2 className="text-small font-medium text-ink-2">Counted in Results</h2>
      <div className="mt-1.5 flex flex-wrap gap-x-6 gap-y-1">
        <Checkbox
          label="Opens, by an image"
          checked={counts.opens}
          disabled={busy}
          onChange={() => change("opens")}
        />
        <Checkbox
          label="Clicks, through an address of ours"
          checked={counts.clicks}
          disabled={busy}
          onChange={() => change("clicks")}
        />
      </div>
      <p className="mt-1 text-small text-ink-2">
        Readers can choose for themselves not to be counted, on the page where they choose what they
        get.
      </p>
    </section>
  );
}
