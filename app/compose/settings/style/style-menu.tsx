/** What can be done with the whole style of a block. */
import { Paintbrush } from "lucide-react";
import { backToTheme, changedHere, stylePaths } from "#core/blocks/style.ts";
import type { DocNode } from "#core/document/index.ts";
import { Button } from "../../../ui/button.tsx";
import { Menu } from "../../../ui/menu.tsx";
import { useCommands } from "../../doing/commands.ts";
import { group } from "../../doing/doing.ts";
import { copiedStyle, copyStyle, pasteStyle, putLookBack } from "../../doing/style.ts";
import { useMessages } from "../../messages/messages.ts";
import { useSelection } from "../../selection/selection.ts";
import { styleItems, useStyleTools } from "./origin.tsx";

export function StyleMenu({ node }: { node: DocNode }) {
  const tools = useStyleTools();
  const { doc, edit } = tools;
  const { run } = useCommands();
  const { announce } = useMessages();
  const { chosen } = useSelection("chosen");
  const items = () => {
    const changed = changedHere(doc, node);
    return [
      {
        label: "Copy the style",
        about: "Ctrl Alt C",
        onChoose: () => announce(copyStyle(node)),
      },
      {
        label: "Paste the style",
        about: "Ctrl Alt V",
        disabled: copiedStyle() === null,
        onChoose: () => run(pasteStyle(doc, chosen)),
      },
      ...styleItems(tools, node, stylePaths(node.type)),
      {
        label: "Reset to the theme",
        about: changed.length ? `${changed.length} values` : undefined,
        disabled: changed.length === 0,
        onChoose: () => edit(group(backToTheme(doc, node, changed))),
      },
      { label: "Reset the style", onChoose: () => run(putLookBack(doc, node)) },
    ];
  };
  return (
    <Menu
      trigger={
        <Button>
          <Paintbrush className="size-3.5" /> Style
        </Button>
      }
      items={items}
    />
  );
}
