/** The plain text of a block: as it is made, or written by hand and marked where it may be stale. */
import type { DocNode } from "#core/document/index.ts";
import type { HandText } from "#core/kinds/hand-text.ts";
import { handTextOf } from "#core/render/index.ts";
import { Button } from "../../ui/button.tsx";
import { useCommands } from "../doing/commands.ts";
import { useReading } from "../reading/reading.ts";
import { HandWords } from "./hand-words.tsx";
import { Section } from "./parts.tsx";

export function PlainTextSection({ node }: { node: DocNode }) {
  const { doc, surroundings } = useReading("doc", "surroundings");
  const { edit } = useCommands();
  const hand = node.props.plain as HandText | null;
  const { source: made, of: mark, begins } = handTextOf(doc, node.id, surroundings);
  const set = (value: HandText | null) =>
    edit({ type: "set", node: node.id, path: ["plain"], value: value as never });
  if (!hand) {
    return (
      <Section title="Plain text">
        <pre
          // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls can be scrolled by keyboard (WCAG 2.2, 2.1.1)
          tabIndex={0}
          className="max-h-40 overflow-auto rounded-md bg-bench p-2 font-mono text-fine whitespace-pre-wrap text-ink-2 break-words"
        >
          {made || "Nothing: this block says nothing in plain text."}
        </pre>
        <div>
          <Button onClick={() => set(begins)}>Write it by hand</Button>
        </div>
      </Section>
    );
  }
  return (
    <Section title="Plain text">
      {hand.of !== mark && (
        <div
          role="status"
          className="rounded-md border border-saffron bg-saffron-soft p-2 text-small"
        >
          <p>
            <strong>This text may be stale.</strong> The block has changed since it was written. It
            would now be:
          </p>
          <pre
            // biome-ignore lint/a11y/noNoninteractiveTabindex: as above
            tabIndex={0}
            className="my-1.5 max-h-28 overflow-auto font-mono text-fine whitespace-pre-wrap break-words"
          >
            {made}
          </pre>
          <Button onClick={() => set({ ...hand, of: mark })}>It still fits</Button>
        </div>
      )}
      <div data-field="plain">
        <HandWords
          label="Written by hand"
          value={hand}
          onChange={(written) => set({ ...written, of: mark })}
        />
      </div>
      <div>
        <Button onClick={() => set(null)}>Make it from the block again</Button>
      </div>
    </Section>
  );
}
