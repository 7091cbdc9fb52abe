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
  Strikethrough,
  Superscript,
  Underline,
} from "lucide-react";
import type { Command } from "prosemirror-state";
import { type KeyboardEvent, memo, useState } from "react";
import type { Tag, TextKind } from "#core/text/index.ts";
import { WordsTool } from "../who/words-tool.tsx";
import { ColourTool } from "./colour-tool.tsx";
import type { TextEditor } from "./editor.ts";
import { EmojiTool } from "./emoji-tool.tsx";
import { commands, hasMark, isIndented } from "./formatting.ts";
import { LinkTool } from "./link-tool.tsx";
import { listOf } from "./lists.ts";
import { TagMenu } from "./tag-menu.tsx";
import { Tool } from "./tool.tsx";

/** Drawn again when what it shows changes, and not with each letter. */
export const FormatBar = memo(function FormatBar({
  editor,
  kind,
  askingTag,
  onAskTag,
  linking,
  onLinking,
  onPopover,
}: {
  editor: TextEditor;
  kind: TextKind;
  /** All it shows of the text (`formatOf`). */
  format: string;
  /** The merge tags are asked for: a new one, or one that is changed. */
  askingTag: { tag: Tag | null } | null;
  onAskTag: (asking: { tag: Tag | null } | null) => void;
  /** The link of the selection is asked for. */
  linking: boolean;
  onLinking: (open: boolean) => void;
  /** A popover of the bar has opened or closed: writing must not end meanwhile. */
  onPopover: (open: boolean) => void;
}) {
  const [seeing, setSeeing] = useState(false);
  const { state } = editor.view;
  const run = (command: Command) => {
    command(editor.view.state, editor.view.dispatch);
    editor.view.focus();
    onPopover(false);
  };
  /** Arrows lead along the bar, Escape back to the words. */
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    if (!event.currentTarget.contains(event.target as Node)) return;
    const tools = [...event.currentTarget.querySelectorAll<HTMLElement>("button:not(:disabled)")];
    const at = tools.indexOf(event.target as HTMLElement);
    const to = { ArrowRight: at + 1, ArrowLeft: at - 1, Home: 0, End: -1 }[event.key];
    if (event.key === "Escape") onPopover(false);
    else if (to !== undefined) tools.at(to % tools.length)?.focus();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const list = listOf(state);
  return (
    <div
      role="toolbar"
      aria-label="Text"
      data-format-bar=""
      onKeyDown={onKeyDown}
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
            label="Strikethrough"
            on={hasMark(state, "strike")}
            onClick={() => run(commands.strike)}
          >
            <Strikethrough />
          </Tool>
          <Tool
            label="Superscript"
            on={hasMark(state, "superscript")}
            onClick={() => run(commands.superscript)}
          >
            <Superscript />
          </Tool>
          <ColourTool editor={editor} name="colour" label="Text colour" onOpen={onPopover}>
            <Baseline />
          </ColourTool>
          <ColourTool editor={editor} name="ground" label="Highlight colour" onOpen={onPopover}>
            <Highlighter />
          </ColourTool>
          <LinkTool
            editor={editor}
            open={linking}
            onOpen={(open) => {
              onLinking(open);
              onPopover(open);
            }}
          />
        </>
      )}
      {kind === "doc" && (
        <>
          <Tool label="List" on={list === "bullets"} onClick={() => run(commands.bullets)}>
            <List />
          </Tool>
          <Tool label="Numbered list" on={list === "numbers"} onClick={() => run(commands.numbers)}>
            <ListOrdered />
          </Tool>
          <Tool label="Indent" on={isIndented(state)} onClick={() => run(commands.indent)}>
            <IndentIncrease />
          </Tool>
          <Tool label="Outdent" onClick={() => run(commands.outdent)}>
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
});
