/** The bar that appears with a text that is being written on a sheet. */
import {
  Baseline,
  Bold,
  Highlighter,
  IndentDecrease,
  IndentIncrease,
  Italic,
  Link2,
  List,
  ListOrdered,
  Superscript,
  Underline,
} from "lucide-react";
import type { Command } from "prosemirror-state";
import { useState } from "react";
import { type Link, line, plainLine, type TextKind, webAddressProblem } from "#core/text/index.ts";
import { Button } from "../../ui/button.tsx";
import { Field, INPUT } from "../../ui/field.tsx";
import { ColourTool } from "./colour-tool.tsx";
import { commands, hasMark, linkAt, setLink, type TextEditor } from "./editor.ts";
import { TagMenu } from "./tag-menu.tsx";
import { Tool } from "./tool.tsx";
import { ToolPopover } from "./tool-popover.tsx";

function LinkTool({ editor, onOpen }: { editor: TextEditor; onOpen: (open: boolean) => void }) {
  const [open, setOpen] = useState(false);
  const [address, setAddress] = useState("");
  const [error, setError] = useState<string | null>(null);
  const current = linkAt(editor.view.state);
  const change = (next: boolean) => {
    const to = current?.attrs.to as Link | undefined;
    if (next) setAddress(to?.kind === "web" ? plainLine(to.address, () => "") : "https://");
    setError(null);
    setOpen(next);
    onOpen(next);
  };
  const apply = (to: Link | null) => {
    setLink(to as never)(editor.view.state, editor.view.dispatch);
    change(false);
    editor.view.focus();
  };
  return (
    <ToolPopover
      label="Link"
      on={current !== null}
      icon={<Link2 />}
      open={open}
      onOpenChange={change}
    >
      <form
        className="flex w-72 flex-col gap-2 p-3"
        onSubmit={(event) => {
          event.preventDefault();
          const to = line(address.trim());
          const problem = webAddressProblem(to);
          if (problem || address.trim() === "") setError(problem ?? "Write an address.");
          else apply({ kind: "web", address: to });
        }}
      >
        <Field
          label="Address"
          errors={error ? [error] : null}
          hint={editor.view.state.selection.empty ? "Select some words first." : undefined}
        >
          {(ids) => (
            <input
              {...ids}
              value={address}
              onChange={(event) => setAddress(event.target.value)}
              className={INPUT}
            />
          )}
        </Field>
        <div className="flex gap-2">
          <Button type="submit" primary disabled={editor.view.state.selection.empty}>
            Link the words
          </Button>
          {current && <Button onClick={() => apply(null)}>Take it away</Button>}
        </div>
      </form>
    </ToolPopover>
  );
}

export function FormatBar({
  editor,
  kind,
  askingTag,
  onAskTag,
  onPopover,
}: {
  editor: TextEditor;
  kind: TextKind;
  askingTag: boolean;
  onAskTag: (open: boolean) => void;
  /** A popover of the bar has opened or closed: writing must not end meanwhile. */
  onPopover: (open: boolean) => void;
}) {
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
      className="flex items-center gap-0.5 rounded-md border border-line-strong bg-paper p-0.5"
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
          <LinkTool editor={editor} onOpen={onPopover} />
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
      <TagMenu
        open={askingTag}
        onOpenChange={(open) => {
          onAskTag(open);
          onPopover(open);
        }}
        onChoose={(tag) => editor.insertTag(tag)}
      />
    </div>
  );
}
