/** The bar that appears with a text that is being written on a sheet. */
import {
  Baseline,
  Bold,
  Highlighter,
  IndentDecrease,
  IndentIncrease,
  Italic,
  List,
  ListOrdered,
  Superscript,
  Underline,
} from "lucide-react";
import type { Command } from "prosemirror-state";
import { useState } from "react";
import type { Tag, TextKind } from "#core/text/index.ts";
import { WordsTool } from "../who/words-tool.tsx";
import { ColourTool } from "./colour-tool.tsx";
import { commands, hasMark, type TextEditor } from "./editor.ts";
import { EmojiTool } from "./emoji-tool.tsx";
import { LinkTool } from "./link-tool.tsx";
import { TagMenu } from "./tag-menu.tsx";
import { Tool } from "./tool.tsx";

export function FormatBar({
  editor,
  kind,
  askingTag,
  onAskTag,
  onPopover,
}: {
  editor: TextEditor;
  kind: TextKind;
  /** The merge tags are asked for: a new one, or one that is changed. */
  askingTag: { tag: Tag | null } | null;
  onAskTag: (asking: { tag: Tag | null } | null) => void;
  /** A popover of the bar has opened or closed: writing must not end meanwhile. */
  onPopover: (open: boolean) => void;
}) {
  const [linking, setLinking] = useState(false);
  const [seeing, setSeeing] = useState(false);
  const { state } = editor.view;
  const run = (command: Command) => {
    command(editor.view.state, editor.view.dispatch);
    editor.view.focus();
  };
  const inList = state.selection.$from.node(-1)?.type.name === "list_item";
  return (
    <div
      role="toolbar"
      aria-label="Text"
      className="flex flex-wrap items-center gap-0.5 rounded-md border border-line-strong bg-paper p-0.5"
    >
      {kind !== "line" && (
        <>
          <Tool label="Bold" on={hasMark(state, "strong")} onClick={() => run(commands.strong)}>
            <Bold />
          </Tool>
          <Tool label="Italic" on={hasMark(state, "em")} onClick={() => run(commands.em)}>
            <Italic />
          </Tool>
          <Tool
            label="Underline"
            on={hasMark(state, "underline")}
            onClick={() => run(commands.underline)}
          >
            <Underline />
          </Tool>
          <Tool
            label="Raised"
            on={hasMark(state, "superscript")}
            onClick={() => run(commands.superscript)}
          >
            <Superscript />
          </Tool>
          <ColourTool editor={editor} name="colour" label="Colour of the words" onOpen={onPopover}>
            <Baseline />
          </ColourTool>
          <ColourTool
            editor={editor}
            name="ground"
            label="Colour behind the words"
            onOpen={onPopover}
          >
            <Highlighter />
          </ColourTool>
          <LinkTool
            editor={editor}
            open={linking}
            onOpen={(open) => {
              setLinking(open);
              onPopover(open);
            }}
          />
        </>
      )}
      {kind === "doc" && (
        <>
          <Tool
            label="List"
            on={inList}
            onClick={() => run(inList ? commands.lift : commands.bullets)}
          >
            <List />
          </Tool>
          <Tool
            label="Numbered list"
            onClick={() => run(inList ? commands.lift : commands.numbers)}
          >
            <ListOrdered />
          </Tool>
          <Tool label="Set in" onClick={() => run(commands.indent)}>
            <IndentIncrease />
          </Tool>
          <Tool label="Set out" onClick={() => run(commands.outdent)}>
            <IndentDecrease />
          </Tool>
        </>
      )}
      <WordsTool
        editor={editor}
        open={seeing}
        onOpen={(open) => {
          setSeeing(open);
          onPopover(open);
        }}
      />
      <EmojiTool editor={editor} onOpen={onPopover} />
      <TagMenu
        open={askingTag !== null}
        tag={askingTag?.tag}
        onOpenChange={(open) => {
          if (!open) editor.leaveTag();
          onAskTag(open ? { tag: null } : null);
          onPopover(open);
        }}
        onChoose={(tag) => editor.insertTag(tag)}
      />
    </div>
  );
}
