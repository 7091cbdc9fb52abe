/** What can be done with several pieces at once. */
import { Copy, GalleryVertical, SquareDashed, Trash2 } from "lucide-react";
import { Button } from "../../ui/button.tsx";
import { duplicate, takeOut } from "../actions.ts";
import { useComposer } from "../context.ts";
import { intoBand, intoCard } from "../grouping.ts";
import { labelOfLoad } from "../load.ts";
import { Section } from "./parts.tsx";

export function SeveralSettings() {
  const { doc, chosen, run } = useComposer();
  const card = intoCard(doc, chosen);
  const band = intoBand(doc, chosen);
  const wide = "justify-start";
  return (
    <Section title={labelOfLoad(doc, { kind: "nodes", ids: chosen })}>
      <p className="text-[12px] text-ink-2">
        They move together when one of them is dragged, and with Alt and the arrow keys.
      </p>
      <Button className={wide} disabled={!card} onClick={() => run(card)}>
        <SquareDashed className="size-3.5" /> Put into a card
      </Button>
      <Button className={wide} disabled={!band} onClick={() => run(band)}>
        <GalleryVertical className="size-3.5" /> Put into a band of their own
      </Button>
      <Button className={wide} onClick={() => run(duplicate(doc, chosen))}>
        <Copy className="size-3.5" /> Duplicate
      </Button>
      <Button className={wide} onClick={() => run(takeOut(doc, chosen))}>
        <Trash2 className="size-3.5" /> Delete
      </Button>
    </Section>
  );
}
