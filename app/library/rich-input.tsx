/** Words with merge tags as chips, written outside of an email: for values of derived tags. */
import { Bold, Italic, Link2, Underline } from "lucide-react";
import type { Command } from "prosemirror-state";
import { useEffect, useRef, useState } from "react";
import type { Field } from "#core/fields/index.ts";
import {
  type Link,
  lineLiquid,
  liquidLine,
  type TextJson,
  tag,
  webAddressProblem,
} from "#core/text/index.ts";
import { createTextEditor, type TextEditor } from "../compose/text/editor.ts";
import { commands, hasMark, linkAt, setLink } from "../compose/text/formatting.ts";
import { Tool } from "../compose/text/tool.tsx";
import { ToolPopover } from "../compose/text/tool-popover.tsx";
import { Button } from "../ui/button.tsx";
import { Field as FormField, INPUT } from "../ui/field.tsx";
import { TagSelect } from "./tag-select.tsx";

/** Where the selected words lead: a web address; all other kinds of links belong to an email. */
function WebLinkTool({ editor }: { editor: TextEditor }) {
  const [open, setOpen] = useState(false);
  const [address, setAddress] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const current = linkAt(editor.view.state)?.attrs.to as Link | undefined;
  const apply = (to: Link | null) => {
    setLink(to)(editor.view.state, editor.view.dispatch);
    setOpen(false);
    editor.view.focus();
  };
  const none = editor.view.state.selection.empty;
  return (
    <ToolPopover
      label="Link"
      on={current !== undefined}
      icon={<Link2 />}
      open={open}
      onOpenChange={(next) => {
        if (next) setAddress(current?.kind === "web" ? lineLiquid(current.address) : "");
        setProblem(null);
        setOpen(next);
      }}
    >
      <form
        className="flex w-72 flex-col gap-2 p-3"
        onSubmit={(event) => {
          event.preventDefault();
          // The page's own form is not meant.
          event.stopPropagation();
          const line = liquidLine(address);
          const wrong = webAddressProblem(line);
          setProblem(wrong);
          if (!wrong) apply({ kind: "web", address: line });
        }}
      >
        {none && <p className="text-small text-ink-2">Select some text first.</p>}
        <FormField label="Web address" errors={problem ? [problem] : undefined}>
          {(own) => (
            <input
              {...own}
              value={address}
              placeholder="https://…"
              onChange={(event) => setAddress(event.target.value)}
              className={INPUT}
            />
          )}
        </FormField>
        <div className="flex gap-2">
          <Button type="submit" primary disabled={none}>
            Link the text
          </Button>
          {current && <Button onClick={() => apply(null)}>Remove the link</Button>}
        </div>
      </form>
    </ToolPopover>
  );
}

interface EditorProps {
  label: string;
  value: TextJson;
  fields: readonly Field[];
  onChange: (value: TextJson) => void;
}

/** Makes the editor once; it holds the words from then on. */
function useEditor(
  kind: "line" | "phrase",
  { label, value, fields, onChange }: EditorProps,
  placeholder?: string,
) {
  const place = useRef<HTMLDivElement>(null);
  const [editor, setEditor] = useState<TextEditor | null>(null);
  const [, redraw] = useState(0);
  const latest = useRef({ fields, onChange });
  latest.current = { fields, onChange };
  // biome-ignore lint/correctness/useExhaustiveDependencies: the editor is made once, and holds the words from then on
  useEffect(() => {
    let shown = "";
    const made = createTextEditor(place.current!, {
      kind,
      text: value,
      tagClass: "tag",
      tagWords: ({ ref }) =>
        latest.current.fields.find(({ id }) => `contact:${id}` === ref)?.label ?? ref,
      attributes: {
        class: "line-editor",
        role: "textbox",
        "aria-label": label,
        ...(placeholder && { "aria-placeholder": placeholder }),
      },
      onSteps: () => {},
      onUpdate: ({ state }) => {
        redraw((n) => n + 1);
        const json = state.doc.toJSON() as TextJson;
        const text = JSON.stringify(json);
        if (text !== shown) latest.current.onChange(json);
        shown = text;
      },
    });
    setEditor(made);
    return () => made.destroy();
  }, [label, kind]);
  return { place, editor };
}

/** One line of words and tags, as it is kept: a template. */
export function LineWords({
  label,
  value,
  hint,
  fields,
  onChange,
}: Omit<EditorProps, "value" | "onChange"> & {
  value: string;
  hint?: string;
  onChange: (value: string) => void;
}) {
  const [start] = useState(() => liquidLine(value));
  const { place, editor } = useEditor(
    "line",
    { label, value: start, fields, onChange: (line) => onChange(lineLiquid(line)) },
    hint,
  );
  return (
    <span className="flex items-start gap-1.5">
      <span
        className={`${INPUT} relative block min-w-0 flex-1 focus-within:outline-2 focus-within:outline-plum`}
      >
        {hint && value === "" && (
          <span aria-hidden className="pointer-events-none absolute text-ink-3">
            {hint}
          </span>
        )}
        <div ref={place} className="min-h-5" />
      </span>
      <TagSelect label={label} fields={fields} onTag={(ref) => editor?.insertTag(tag(ref))} />
    </span>
  );
}

export function RichInput(props: EditorProps) {
  const { label, fields } = props;
  const { place, editor } = useEditor("phrase", props);
  const run = (command: Command) => {
    command(editor!.view.state, editor!.view.dispatch);
    editor!.view.focus();
  };
  const marks = [
    ["Bold", "strong", commands.strong, <Bold key="b" />],
    ["Italic", "em", commands.em, <Italic key="i" />],
    ["Underline", "underline", commands.underline, <Underline key="u" />],
  ] as const;
  return (
    <div className={`${INPUT} focus-within:outline-2 focus-within:outline-plum`}>
      {editor && (
        <div
          role="toolbar"
          aria-label={`${label}: text`}
          className="mb-1 flex items-center gap-0.5"
        >
          {marks.map(([name, mark, command, icon]) => (
            <Tool
              key={name}
              label={name}
              on={hasMark(editor.view.state, mark)}
              onClick={() => run(command)}
            >
              {icon}
            </Tool>
          ))}
          <WebLinkTool editor={editor} />
          <TagSelect label={label} fields={fields} onTag={(ref) => editor.insertTag(tag(ref))} />
        </div>
      )}
      <div ref={place} className="min-h-5" />
    </div>
  );
}
