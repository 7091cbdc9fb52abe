/** Where a style value comes from: the theme, or changed here; and what can be done with a changed one. */
import { Ellipsis } from "lucide-react";
import type { ReactNode } from "react";
import { labelOf } from "#core/blocks/index.ts";
import { backToTheme, fromTheme, makeThemes, spread } from "#core/blocks/style.ts";
import type { DocNode, EmailDocument } from "#core/document/index.ts";
import { Menu, type MenuItem } from "../../../ui/menu.tsx";
import { type Commands, useCommands } from "../../doing/commands.ts";
import { group } from "../../doing/doing.ts";
import { type Messages, useMessages } from "../../messages/messages.ts";
import { useReading } from "../../reading/reading.ts";

const others = (n: number, label: string) =>
  n === 1 ? `1 other ${label.toLowerCase()}` : `${n} others`;

interface StyleTools extends Pick<Commands, "edit">, Pick<Messages, "say"> {
  readonly doc: EmailDocument;
}

export function useStyleTools(): StyleTools {
  const { doc } = useReading("doc");
  const { edit } = useCommands();
  const { say } = useMessages();
  return { doc, edit, say };
}

/** What can be done with some values of a node's style. */
export function styleItems(
  { doc, edit, say }: StyleTools,
  node: DocNode,
  paths: readonly (readonly string[])[],
): MenuItem[] {
  const touched = spread(doc, node, paths);
  const theme = makeThemes(doc, node, paths);
  return [
    {
      label: touched.length
        ? `Apply to ${others(touched.length, labelOf(node))}`
        : "Apply to similar",
      about: touched.length ? undefined : "all others have it",
      disabled: touched.length === 0,
      onChoose: () => {
        if (edit(group(touched.flat()))) say(`Given to ${others(touched.length, labelOf(node))}.`);
      },
    },
    {
      label: "Make it the theme’s",
      about: theme.followers ? `+ ${others(theme.followers, labelOf(node))}` : undefined,
      onChoose: () => {
        if (edit(group(theme.edits))) say("New ones come like this from now on.");
      },
    },
  ];
}

function Changed({ node, path }: { node: DocNode; path: readonly string[] }) {
  const tools = useStyleTools();
  const { doc, edit } = tools;
  return (
    <div className="mt-0.5 flex items-center gap-2 text-fine">
      <span className="text-ink-3">Changed here</span>
      <button
        type="button"
        className="link text-fine"
        onClick={() => edit(group(backToTheme(doc, node, [path])))}
      >
        Go back
      </button>
      <Menu
        items={() => styleItems(tools, node, [path])}
        trigger={
          <button
            type="button"
            aria-label="Apply to similar, or make it the theme’s"
            title="Apply to similar, or make it the theme’s"
            className="rounded px-1 text-ink-2 hover:bg-bench hover:text-plum"
          >
            <Ellipsis className="size-3.5" aria-hidden />
          </button>
        }
      />
    </div>
  );
}

/** A control with the mark of where its value comes from. */
export function Origin({
  node,
  path,
  children,
}: {
  node: DocNode;
  path: readonly string[];
  children: ReactNode;
}) {
  const { doc } = useReading("doc");
  const own = !fromTheme(doc, node, path);
  return (
    <div className="relative" data-origin={own ? "here" : "theme"} data-style={path.join(".")}>
      <span
        title={own ? "Changed here" : "From the theme"}
        className={`absolute top-[5px] -left-[10px] size-[6px] rounded-full border ${own ? "border-plum bg-plum" : "border-line-strong"}`}
      >
        <span className="sr-only">{own ? "Changed here:" : "From the theme:"}</span>
      </span>
      {children}
      {own && <Changed node={node} path={path} />}
    </div>
  );
}
