/** The plain text of a block: as it is made, or written by hand and marked where it may be stale. */
import { useEffect, useState } from "react";
import type { DocNode } from "#core/document/index.ts";
import { fingerprint } from "#core/json.ts";
import type { HandText } from "#core/kinds/common.ts";
import { LIMITS } from "#core/limits.ts";
import { compileText } from "#core/render/index.ts";
import { parseLiquid, type Segment, tagLiquid, wrapText } from "#core/text/index.ts";
import { Button } from "../../ui/button.tsx";
import { Field, INPUT } from "../../ui/field.tsx";
import { useComposer } from "../context.ts";
import { Section } from "./parts.tsx";

/** Segments as they can be written by hand: tags in Liquid, addresses as they are. */
function spelled(segments: readonly Segment[]): string {
  return segments
    .map((segment) => {
      if (typeof segment === "string") return segment;
      if (segment.slot === "tag") return tagLiquid(segment.tag);
      if (segment.slot !== "link") return "";
      const { to } = segment;
      if (to.kind === "web") {
        const parts = to.address.content ?? [];
        return parts
          .map((part) => (part.type === "tag" ? tagLiquid(part.attrs as never) : (part.text ?? "")))
          .join("");
      }
      if (to.kind === "unsubscribe") return "{{ campaign.unsubscribe }}";
      if (to.kind === "webVersion") return "{{ campaign.web_version }}";
      return to.kind === "mail" ? to.address : to.kind === "phone" ? to.number : "";
    })
    .join("");
}

export function PlainTextSection({ node }: { node: DocNode }) {
  const { doc, surroundings, edit } = useComposer();
  const hand = node.props.plain as HandText | null;
  // Lines end where the text goes out; here they run on.
  const segments = compileText(doc, node.id, surroundings) ?? [];
  const made = wrapText(spelled(segments), Number.POSITIVE_INFINITY).trim();
  const [draft, setDraft] = useState(hand?.source ?? "");
  useEffect(() => setDraft(hand?.source ?? ""), [hand?.source]);
  const mark = fingerprint(made);
  const set = (value: HandText | null) =>
    edit({ type: "set", node: node.id, path: ["plain"], value: value as never });
  if (!hand) {
    return (
      <Section title="Plain text">
        <pre className="max-h-40 overflow-auto rounded-md bg-bench p-2 font-mono text-[10.5px] whitespace-pre-wrap text-ink-2 break-words">
          {made || "Nothing: this block says nothing in plain text."}
        </pre>
        <div>
          <Button onClick={() => set({ source: made, of: mark })}>Write it by hand</Button>
        </div>
      </Section>
    );
  }
  const problems = parseLiquid(hand.source).problems;
  return (
    <Section title="Plain text">
      {hand.of !== mark && (
        <div
          role="status"
          className="rounded-md border border-saffron bg-saffron-soft p-2 text-[12px]"
        >
          <p>
            <strong>This text may be stale.</strong> The block has changed since it was written. It
            would now be:
          </p>
          <pre className="my-1.5 max-h-28 overflow-auto font-mono text-[10.5px] whitespace-pre-wrap break-words">
            {made}
          </pre>
          <Button onClick={() => set({ ...hand, of: mark })}>It still fits</Button>
        </div>
      )}
      <Field
        label="Written by hand"
        hint="Merge tags are written as in Liquid."
        errors={problems.length ? [`No merge tag: ${problems.join(", ")}`] : null}
      >
        {(ids) => (
          <textarea
            {...ids}
            rows={6}
            maxLength={LIMITS.handText}
            value={draft}
            className={`${INPUT} font-mono text-[11px] leading-snug`}
            onChange={(event) => setDraft(event.target.value)}
            onBlur={() => draft !== hand.source && set({ source: draft, of: mark })}
          />
        )}
      </Field>
      <div>
        <Button onClick={() => set(null)}>Make it from the block again</Button>
      </div>
    </Section>
  );
}
