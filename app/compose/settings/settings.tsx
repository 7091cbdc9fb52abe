/** Settings of what is selected: content first, then style, then spacing, then on which widths it shows. */
import { AlignCenter, AlignLeft, AlignRight, Copy, Trash2 } from "lucide-react";
import type { ReactNode } from "react";
import { useState } from "react";
import { blockKind, labelOf } from "#core/blocks/index.ts";
import { type BandProps, bandControls, type EmailProps } from "#core/blocks/layout.ts";
import { type DocNode, find, pathTo } from "#core/document/index.ts";
import type { Align, BlockProps, Padding } from "#core/kinds/common.ts";
import type { Control } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import { MAIL_ADDRESS } from "#core/text/index.ts";
import { Button } from "../../ui/button.tsx";
import { Field, INPUT } from "../../ui/field.tsx";
import { Segmented } from "../../ui/segmented.tsx";
import { duplicate, setColumns, takeOut } from "../actions.ts";
import { useComposer } from "../context.ts";
import { nameOf } from "../landing.ts";
import { LineInput } from "../text/line-input.tsx";
import { ControlView, NumberInput } from "./controls.tsx";

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="flex flex-col gap-2.5">
      <h3 className="text-[15px]">{title}</h3>
      {children}
    </section>
  );
}

/** Numbers and choices stand two to a line, everything else has a line of its own. */
function Controls({ node, controls }: { node: DocNode; controls: readonly Control[] }) {
  const half = (control: Control) => control.control === "number" || control.control === "choice";
  return (
    <div className="grid grid-cols-2 gap-2.5">
      {controls.map((control, i) => (
        <div key={i} className={half(control) ? "" : "col-span-2"}>
          <ControlView node={node} control={control} />
        </div>
      ))}
    </div>
  );
}

const SIDES = ["top", "right", "bottom", "left"] as const;

function PaddingFields({ node, path, value }: { node: DocNode; path: string[]; value: Padding }) {
  const { edit } = useComposer();
  return (
    <div className="grid grid-cols-4 gap-1.5">
      {SIDES.map((side) => (
        <NumberInput
          key={side}
          label={side[0]!.toUpperCase() + side.slice(1)}
          value={value[side]}
          min={0}
          max={120}
          onValue={(n) => edit({ type: "set", node: node.id, path: [...path, side], value: n })}
        />
      ))}
    </div>
  );
}

const ALIGNS: { value: Align; label: string; icon: ReactNode }[] = [
  { value: "start", label: "Left", icon: <AlignLeft /> },
  { value: "center", label: "Centre", icon: <AlignCenter /> },
  { value: "end", label: "Right", icon: <AlignRight /> },
];
const SHOWS = [
  { value: "both", label: "Both" },
  { value: "wide", label: "Only wide" },
  { value: "narrow", label: "Only narrow" },
] as const;

function Shown({ node }: { node: DocNode }) {
  const { edit } = useComposer();
  return (
    <Section title="Shown on">
      <Segmented
        label="Shown on"
        value={node.props.show as BlockProps["show"]}
        options={SHOWS}
        onChange={(value) => edit({ type: "set", node: node.id, path: ["show"], value })}
      />
    </Section>
  );
}

function BlockSettings({ node }: { node: DocNode }) {
  const { edit } = useComposer();
  const kind = blockKind(node.type)!;
  const { box } = node.props as unknown as BlockProps;
  const setAlign = (path: string, value: Align) =>
    edit({ type: "set", node: node.id, path: ["box", path], value });
  return (
    <>
      {kind.content.length > 0 && (
        <Section title="Content">
          <Controls node={node} controls={kind.content} />
        </Section>
      )}
      <Section title="Style">
        <Controls node={node} controls={kind.style} />
        <ControlView
          node={node}
          control={{
            control: "colour",
            path: ["box", "background"],
            label: "Ground behind",
            none: "None",
          }}
        />
      </Section>
      <Section title="Spacing">
        <PaddingFields node={node} path={["box", "padding"]} value={box.padding} />
        <div className="flex items-center justify-between">
          <span className="text-[11.5px] text-ink-2">Alignment</span>
          <Segmented
            label="Alignment"
            value={box.align}
            options={ALIGNS}
            onChange={(value) => setAlign("align", value)}
          />
        </div>
        <div className="flex items-center justify-between">
          <span className="text-[11.5px] text-ink-2">On narrow</span>
          <Segmented
            label="Alignment on narrow"
            value={box.alignNarrow ?? box.align}
            options={ALIGNS}
            onChange={(value) => setAlign("alignNarrow", value)}
          />
        </div>
      </Section>
      <Shown node={node} />
    </>
  );
}

function BandSettings({ node }: { node: DocNode }) {
  const { doc, edit } = useComposer();
  const props = node.props as unknown as BandProps;
  return (
    <>
      <Section title="Content">
        <Field label="Name">
          {(ids) => (
            <input
              {...ids}
              key={`${node.id}${props.name}`}
              defaultValue={props.name}
              maxLength={LIMITS.nameLength}
              className={INPUT}
              onBlur={(event) => {
                const value = event.target.value.trim();
                if (value !== props.name)
                  edit({ type: "set", node: node.id, path: ["name"], value });
              }}
            />
          )}
        </Field>
        <div className="flex items-center justify-between">
          <span className="text-[11.5px] text-ink-2">Columns</span>
          <Segmented
            label="Columns"
            value={String(node.children.length)}
            options={["1", "2", "3", "4"].map((value) => ({ value, label: value }))}
            onChange={(value) => {
              const change = setColumns(doc, node.id, Number(value));
              if (change) edit(change);
            }}
          />
        </div>
        {node.children.length > 1 && (
          <div className="grid grid-cols-4 gap-1.5">
            {node.children.map((column, i) => (
              <NumberInput
                key={column.id}
                label={`Share ${i + 1}`}
                value={column.props.share as number}
                min={1}
                max={100}
                onValue={(value) => edit({ type: "set", node: column.id, path: ["share"], value })}
              />
            ))}
          </div>
        )}
      </Section>
      <Section title="Style">
        <Controls node={node} controls={bandControls} />
      </Section>
      <Section title="Spacing">
        <PaddingFields node={node} path={["padding"]} value={props.padding} />
      </Section>
      <Shown node={node} />
    </>
  );
}

/** A mail address of the envelope, saved when it is right. */
function AddressField({ name, label }: { name: "fromAddress" | "replyTo"; label: string }) {
  const { doc, edit } = useComposer();
  const stored = (doc.root.props as unknown as EmailProps).envelope[name];
  const [error, setError] = useState<string | null>(null);
  return (
    <Field label={label} errors={error ? [error] : null}>
      {(ids) => (
        <input
          {...ids}
          key={stored}
          defaultValue={stored}
          type="email"
          maxLength={LIMITS.addressLength}
          className={INPUT}
          onBlur={(event) => {
            const value = event.target.value.trim();
            const wrong = value !== "" && !MAIL_ADDRESS.test(value);
            setError(wrong ? "This is not a mail address." : null);
            if (!wrong && value !== stored) {
              edit({ type: "set", node: doc.root.id, path: ["envelope", name], value });
            }
          }}
        />
      )}
    </Field>
  );
}

function EnvelopeSettings() {
  const { doc } = useComposer();
  const { envelope } = doc.root.props as unknown as EmailProps;
  const text = (name: "fromName" | "subject" | "preview", label: string, hint?: string) => (
    <LineInput
      label={label}
      hint={hint}
      text={envelope[name]}
      at={{ node: doc.root.id, path: ["envelope", name] }}
    />
  );
  return (
    <Section title="Envelope">
      {text("subject", "Subject", "Small phones show about 40 characters.")}
      {text("preview", "Preview text", "Stands behind the subject in the inbox.")}
      {text("fromName", "From")}
      <AddressField name="fromAddress" label="From address" />
      <AddressField name="replyTo" label="Replies go to" />
    </Section>
  );
}

function EmailSettings() {
  const { doc, edit } = useComposer();
  const { width, lang } = doc.root.props as unknown as EmailProps;
  const { min, max } = LIMITS.emailWidth;
  return (
    <Section title="Email">
      <NumberInput
        label="Width"
        unit="px"
        value={width}
        min={min}
        max={max}
        onValue={(value) => edit({ type: "set", node: doc.root.id, path: ["width"], value })}
      />
      <Field label="Language">
        {(ids) => (
          <select
            {...ids}
            value={lang}
            className={INPUT}
            onChange={(event) =>
              edit({ type: "set", node: doc.root.id, path: ["lang"], value: event.target.value })
            }
          >
            <option value="en-GB">English (United Kingdom)</option>
            <option value="en-US">English (United States)</option>
            <option value="fr">French</option>
          </select>
        )}
      </Field>
    </Section>
  );
}

/** What a step of the path is called: bands by their names, columns by their numbers. */
function stepName(path: readonly DocNode[], i: number): string {
  const node = path[i]!;
  if (node.type === "band") return nameOf(node);
  const among = path[i - 1]?.children ?? [];
  if (node.type !== "column" || among.length === 1) return labelOf(node);
  return `${labelOf(node)} ${among.indexOf(node) + 1}`;
}

export function SettingsPanel() {
  const { doc, selected, select, run } = useComposer();
  const node = selected && selected !== "envelope" ? find(doc, selected)?.node : undefined;
  const path = node ? pathTo(doc, node.id) : [];
  return (
    <aside
      aria-label="Settings"
      className="flex min-h-0 flex-col gap-5 overflow-y-auto border-l p-3.5 pb-8"
    >
      {selected === "envelope" ? (
        <EnvelopeSettings key="envelope" />
      ) : !node ? (
        <p className="text-ink-3">
          Select something on a sheet or in the running order, and its settings stand here.
        </p>
      ) : (
        <>
          <nav aria-label="Path" className="-mb-2 flex flex-wrap gap-1 text-[11.5px] text-ink-2">
            {path.map((one, i) => (
              <span key={one.id} className="flex gap-1">
                {i > 0 && <span aria-hidden>›</span>}
                {one === node ? (
                  <strong aria-current="true">{stepName(path, i)}</strong>
                ) : (
                  <button
                    type="button"
                    className="hover:text-plum hover:underline"
                    onClick={() => select(one.id)}
                  >
                    {stepName(path, i)}
                  </button>
                )}
              </span>
            ))}
          </nav>
          {/* A key per node, so that no field carries over what was typed for another. */}
          <div key={node.id} className="flex flex-col gap-5">
            {node.type === "email" && (
              <>
                <EmailSettings />
                <EnvelopeSettings />
              </>
            )}
            {node.type === "band" && <BandSettings node={node} />}
            {node.type === "column" && (
              <p className="text-ink-3">
                A column of {nameOf(path[1]!)}. Its width is set with the band’s columns.
              </p>
            )}
            {blockKind(node.type) && <BlockSettings node={node} />}
            {node.type !== "email" && node.type !== "column" && (
              <div className="flex gap-2 border-t pt-3">
                <Button onClick={() => run(duplicate(doc, node.id))}>
                  <Copy className="size-3.5" /> Duplicate
                </Button>
                <Button onClick={() => run(takeOut(doc, node.id))}>
                  <Trash2 className="size-3.5" /> Delete
                </Button>
              </div>
            )}
          </div>
        </>
      )}
    </aside>
  );
}
