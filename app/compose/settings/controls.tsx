/** The controls that block types ask for, one component a kind. */
import clsx from "clsx";
import { Upload } from "lucide-react";
import { Switch } from "radix-ui";
import { useEffect, useId, useRef, useState } from "react";
import { type DocNode, valueAt } from "#core/document/index.ts";
import type { Json } from "#core/json.ts";
import type { Control, Picture } from "#core/kinds/kind.ts";
import { type Link, line, linkSchema, type TextJson } from "#core/text/index.ts";
import { COLOUR_ROLES, type Colour, type ColourRole, HEX, type Theme } from "#core/theme/theme.ts";
import { Button } from "../../ui/button.tsx";
import { Field, INPUT } from "../../ui/field.tsx";
import { useComposer } from "../context.ts";
import { LineInput } from "../text/line-input.tsx";

interface Props<C extends Control["control"]> {
  node: DocNode;
  control: Extract<Control, { control: C }>;
}

/** The value of a control, and the way to set it. */
function useValue<T>(node: DocNode, path: readonly string[]): [T, (value: Json) => boolean] {
  const { edit } = useComposer();
  return [
    valueAt(node.props, path) as T,
    (value) => edit({ type: "set", node: node.id, path: [...path], value }),
  ];
}

function LineControl({ node, control }: Props<"line">) {
  const [text] = useValue<TextJson>(node, control.path);
  return (
    <LineInput
      label={control.label}
      hint={control.hint}
      text={text}
      at={{ node: node.id, path: control.path }}
    />
  );
}

const LINK_KINDS = [
  ["none", "Nowhere"],
  ["web", "A web address"],
  ["mail", "An email address"],
  ["phone", "A phone number"],
  ["webVersion", "The web version"],
  ["unsubscribe", "Unsubscribe"],
] as const;

const startOf = (kind: string): Link => {
  if (kind === "web") return { kind, address: line() };
  if (kind === "mail") return { kind, address: "" };
  if (kind === "phone") return { kind, number: "" };
  return { kind } as Link;
};

function LinkControl({ node, control }: Props<"link">) {
  const [link, set] = useValue<Link>(node, control.path);
  const [error, setError] = useState<string | null>(null);
  const save = (next: Link) => {
    const result = linkSchema.safeParse(next);
    setError(result.success ? null : (result.error.issues[0]?.message ?? "This does not fit."));
    if (result.success) set(result.data as unknown as Json);
  };
  return (
    <div className="flex flex-col gap-2">
      <Field label={control.label}>
        {(ids) => (
          <select
            {...ids}
            value={link.kind}
            className={INPUT}
            onChange={(event) => save(startOf(event.target.value))}
          >
            {LINK_KINDS.map(([kind, label]) => (
              <option key={kind} value={kind}>
                {label}
              </option>
            ))}
          </select>
        )}
      </Field>
      {link.kind === "web" && (
        <LineInput
          label="Address"
          text={link.address}
          error={error}
          hint="Begins with https://"
          onText={(address) => {
            if (JSON.stringify(address) !== JSON.stringify(link.address))
              save({ kind: "web", address });
            else setError(null);
          }}
        />
      )}
      {(link.kind === "mail" || link.kind === "phone") && (
        <Field label={link.kind === "mail" ? "Address" : "Number"} errors={error ? [error] : null}>
          {(ids) => (
            <input
              {...ids}
              key={link.kind}
              defaultValue={link.kind === "mail" ? link.address : link.number}
              className={INPUT}
              onBlur={(event) => {
                const value = event.target.value.trim();
                save(
                  link.kind === "mail" ? { ...link, address: value } : { ...link, number: value },
                );
              }}
            />
          )}
        </Field>
      )}
    </div>
  );
}

function PictureControl({ node, control }: Props<"picture">) {
  const { surroundings, addPicture } = useComposer();
  const [id, set] = useValue<string | null>(node, control.path);
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const fileId = useId();
  const picture = id ? surroundings.pictures.get(id) : undefined;
  const upload = async (chosen: File | undefined) => {
    if (!chosen) return;
    setBusy(true);
    setError(null);
    const body = new FormData();
    body.set("file", chosen);
    try {
      const response = await fetch("/library/pictures", { method: "POST", body });
      const answer = (await response.json()) as { picture?: Picture; error?: string };
      if (answer.picture) {
        addPicture(answer.picture);
        set(answer.picture.id);
      } else setError(answer.error ?? "The picture was not taken.");
    } catch {
      setError("The picture could not be sent. Try again.");
    }
    setBusy(false);
    if (file.current) file.current.value = "";
  };
  return (
    <div>
      <label htmlFor={fileId} className="mb-1 block text-[11.5px] text-ink-2">
        {control.label}
      </label>
      <div className="flex items-center gap-2.5">
        <div className="flex h-14 w-20 flex-none items-center justify-center overflow-hidden rounded-md bg-bench">
          {picture && (
            <img src={`/pictures/${picture.file}`} alt="" className="max-h-full max-w-full" />
          )}
        </div>
        <input
          ref={file}
          id={fileId}
          type="file"
          accept="image/png,image/jpeg,image/gif,image/webp"
          className="peer sr-only"
          onChange={(event) => void upload(event.target.files?.[0])}
        />
        <Button
          disabled={busy}
          onClick={() => file.current?.click()}
          tabIndex={-1}
          className="peer-focus-visible:outline-2 peer-focus-visible:outline-plum"
        >
          <Upload className="size-3.5" /> {busy ? "Sending…" : picture ? "Another" : "Choose"}
        </Button>
      </div>
      {surroundings.pictures.size > 0 && (
        <div
          className="mt-2 flex gap-1.5 overflow-x-auto pb-1"
          role="group"
          aria-label="From the library"
        >
          {[...surroundings.pictures.values()].slice(0, 12).map((one) => (
            <button
              key={one.id}
              type="button"
              title={one.name}
              aria-label={`Take ${one.name}`}
              onClick={() => set(one.id)}
              className={clsx(
                "h-9 w-12 flex-none overflow-hidden rounded border",
                one.id === id && "outline-2 outline-plum",
              )}
            >
              <img src={`/pictures/${one.file}`} alt="" className="h-full w-full object-cover" />
            </button>
          ))}
        </div>
      )}
      {error && (
        <p role="alert" className="mt-1 text-[12px] font-semibold text-rust">
          {error}
        </p>
      )}
    </div>
  );
}

function ColourControl({ node, control }: Props<"colour">) {
  const { doc } = useComposer();
  const [value, set] = useValue<Colour | null>(node, control.path);
  const theme = doc.root.props.theme as unknown as Theme;
  const own = typeof value === "string" && value.startsWith("#");
  const [draft, setDraft] = useState<string | null>(null);
  const wrong = draft !== null && !HEX.test(draft.toLowerCase());
  return (
    <fieldset>
      <legend className="sr-only">{control.label}</legend>
      <div className="mb-1 flex items-center justify-between">
        <span aria-hidden className="text-[11.5px] text-ink-2">
          {control.label}
        </span>
        <span className="flex items-center gap-1.5">
          {control.none && (
            <button
              type="button"
              onClick={() => set(null)}
              aria-pressed={value === null}
              className={clsx(
                "rounded-full border border-line-strong px-2 text-[11px]",
                value === null && "outline-2 outline-plum outline-offset-1",
              )}
            >
              {control.none}
            </button>
          )}
          <input
            aria-label={`${control.label}, as # and six digits`}
            aria-invalid={wrong || undefined}
            placeholder="#"
            value={draft ?? (own ? value : "")}
            maxLength={7}
            className="hex w-[68px] rounded-md border border-field bg-sheet px-1.5 text-[11.5px] aria-invalid:border-rust"
            onChange={(event) => setDraft(event.target.value)}
            onBlur={() => {
              if (draft && !wrong) set(draft.toLowerCase());
              if (!wrong || draft === "") setDraft(null);
            }}
          />
        </span>
      </div>
      <div className="flex flex-wrap items-center gap-1">
        {(Object.keys(COLOUR_ROLES) as ColourRole[]).map((role) => (
          <button
            key={role}
            type="button"
            title={COLOUR_ROLES[role]}
            aria-label={COLOUR_ROLES[role]}
            aria-pressed={value === role}
            onClick={() => set(role)}
            className={clsx(
              "mx-px size-[18px] rounded-full border border-line-strong",
              value === role && "outline-2 outline-plum outline-offset-1",
            )}
            style={{ background: theme.colours[role] }}
          />
        ))}
      </div>
      {wrong && draft !== "" && (
        <p role="alert" className="mt-1 text-[12px] font-semibold text-rust">
          Written as # and six digits.
        </p>
      )}
    </fieldset>
  );
}

/** A whole number that is saved when it is right; what is wrong with it stands under it. */
export function NumberInput({
  label,
  value,
  min,
  max,
  unit,
  onValue,
}: {
  label: string;
  value: number | null;
  min: number;
  max: number;
  unit?: string;
  onValue: (value: number) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new value from outside replaces what was typed
  useEffect(() => setDraft(null), [value]);
  const number = Number(draft);
  const problem =
    draft === null || draft === ""
      ? null
      : !Number.isInteger(number)
        ? "A whole number."
        : number < min
          ? `At least ${min}.`
          : number > max
            ? `At most ${max}.`
            : null;
  return (
    <Field label={unit ? `${label}, ${unit}` : label} errors={problem ? [problem] : null}>
      {(ids) => (
        <input
          {...ids}
          inputMode="numeric"
          value={draft ?? value ?? ""}
          placeholder={value === null ? "theme" : undefined}
          className={INPUT}
          onChange={(event) => setDraft(event.target.value)}
          onKeyDown={(event) => {
            const by = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
            if (!by) return;
            event.preventDefault();
            const next = (value ?? min) + by * (event.shiftKey ? 10 : 1);
            onValue(Math.min(max, Math.max(min, next)));
          }}
          onBlur={() => {
            if (draft !== null && draft !== "" && !problem && number !== value) onValue(number);
            if (!problem) setDraft(null);
          }}
        />
      )}
    </Field>
  );
}

function NumberControl({ node, control }: Props<"number">) {
  const [value, set] = useValue<number | null>(node, control.path);
  const { label, min, max, unit } = control;
  return <NumberInput {...{ label, min, max, unit, value }} onValue={set} />;
}

function ChoiceControl({ node, control }: Props<"choice">) {
  const [value, set] = useValue<string | number>(node, control.path);
  return (
    <Field label={control.label}>
      {(ids) => (
        <select
          {...ids}
          value={String(value)}
          className={INPUT}
          onChange={(event) => {
            const chosen = control.options.find((o) => String(o.value) === event.target.value);
            if (chosen) set(chosen.value);
          }}
        >
          {control.options.map((option) => (
            <option key={option.value} value={String(option.value)}>
              {option.label}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}

function SwitchControl({ node, control }: Props<"switch">) {
  const [value, set] = useValue<boolean>(node, control.path);
  const id = useId();
  return (
    <div className="flex items-center justify-between gap-3">
      <label htmlFor={id} className="text-[12px]">
        {control.label}
      </label>
      <Switch.Root
        id={id}
        checked={value}
        onCheckedChange={set}
        className="h-[18px] w-8 flex-none rounded-full border border-field bg-sheet data-[state=checked]:border-plum data-[state=checked]:bg-plum"
      >
        <Switch.Thumb className="block size-3 translate-x-0.5 rounded-full bg-field data-[state=checked]:translate-x-[15px] data-[state=checked]:bg-on-plum" />
      </Switch.Root>
    </div>
  );
}

/** One control of a block's settings. */
export function ControlView({ node, control }: { node: DocNode; control: Control }) {
  switch (control.control) {
    case "line":
      return <LineControl node={node} control={control} />;
    case "link":
      return <LinkControl node={node} control={control} />;
    case "picture":
      return <PictureControl node={node} control={control} />;
    case "colour":
      return <ColourControl node={node} control={control} />;
    case "number":
      return <NumberControl node={node} control={control} />;
    case "choice":
      return <ChoiceControl node={node} control={control} />;
    case "switch":
      return <SwitchControl node={node} control={control} />;
    case "onSheet":
      return <p className="text-[12px] text-ink-3">{control.label}</p>;
  }
}
