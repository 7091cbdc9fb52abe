/** What can be done with several pieces at once. */
import { Copy, GalleryVertical, SquareDashed, Trash2 } from "lucide-react";
import { find } from "#core/document/index.ts";
import { Button } from "../../ui/button.tsx";
import { duplicate, takeOut } from "../doing/actions.ts";
import { useCommands } from "../doing/commands.ts";
import { intoBand, intoCard } from "../doing/grouping.ts";
import { labelOfLoad } from "../placing/load.ts";
import { useReading } from "../reading/reading.ts";
import { useSelection } from "../selection/selection.ts";
import { Section } from "./parts.tsx";
import { SaveBlocks } from "./save-blocks.tsx";

export function SeveralSettings() {
  const { doc } = useReading("doc");
  const { chosen } = useSelection("chosen");
  const { run } = useCommands();
  const card = intoCard(doc, chosen);
  const band = intoBand(doc, chosen);
  const wide = "justify-start";
  return (
    <Section title={labelOfLoad(doc, { kind: "nodes", ids: chosen })}>
      <p className="text-small text-ink-2">
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
      <SaveBlocks
        className={wide}
        nodes={chosen.flatMap((id) => find(doc, id)?.node ?? [])}
        proposed={labelOfLoad(doc, { kind: "nodes", ids: chosen })}
      />
      <Button className={wide} onClick={() => run(takeOut(doc, chosen))}>
        <Trash2 className="size-3.5" /> Delete
      </Button>
    </Section>
  );
}
