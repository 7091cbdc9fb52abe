/** One of several: a list that opens at the control. A long one is searched, here or by the server. */
import clsx from "clsx";
import { Check, ChevronDown } from "lucide-react";
import { Popover as Pop, Select as Radix } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import type { Finder } from "./finder.ts";
import { matching } from "./matches.ts";
import { type PickItem, PickList } from "./pick-list.tsx";

export interface Option<V extends string = string> {
  readonly value: V;
  readonly label: string;
  /** Other words it is found by. */
  readonly other?: string;
}

/** Options of things that have names. */
export const named = (things: Iterable<{ id: string; name: string }>): Option[] =>
  [...things].map(({ id, name }) => ({ value: id, label: name }));

/** Beyond so many, one types to find. */
const LISTED = 14;
const FIELD =
  "rounded-md border border-field bg-sheet px-2.5 py-1.5 text-body aria-invalid:border-rust";
const LOOK =
  "inline-flex items-center justify-between gap-2 text-left text-ink data-[placeholder]:text-ink-3 disabled:text-ink-3";
/** Radix keeps the empty value for itself; here it is a value like others. */
const EMPTY = " ";

interface Props<V extends string> {
  /** What it is called, where no label of a field does it. */
  label?: string;
  options: readonly Option<V>[];
  /** What no choice means: the first entry. Left out where one has to be made. */
  none?: string;
  /** Stands there until one is chosen. */
  hint?: string;
  /** What is chosen, where the page holds it; a form's own choice has `initial` and `name`. */
  value?: V | "";
  initial?: V | "";
  name?: string;
  onValue?: (value: V | "") => void;
  /** Searches among more than the options, which stand before what is found. */
  finder?: Finder;
  disabled?: boolean;
  autoFocus?: boolean;
  className?: string;
  /** Instead of the look of a field. */
  look?: string;
  id?: string;
  "aria-describedby"?: string;
  "aria-invalid"?: true;
}

export function Select<V extends string>(props: Props<V>) {
  const { options, none, hint = "Choose…", value, initial, name, finder } = props;
  const [own, setOwn] = useState<Option<V> | null>(null);
  const [chosen, setChosen] = useState({ initial, value: initial ?? "" });
  // What the page begins with anew takes the place of what was chosen before.
  if (chosen.initial !== initial) setChosen({ initial, value: initial ?? "" });
  const taken = value ?? chosen.value;
  const known =
    options.find((one) => one.value === taken) ?? (own?.value === taken ? own : undefined);
  const nameless = !known && taken !== "";
  useEffect(() => {
    if (!finder || !nameless) return;
    let stale = false;
    void finder.nameOf(taken).then((found) => {
      if (found && !stale) setOwn(found as Option<V>);
    });
    return () => {
      stale = true;
    };
  }, [finder, taken, nameless]);
  const field = useRef<HTMLSelectElement>(null);
  const byHand = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: when the field has the new value
  useEffect(() => {
    // Whoever listens to the form hears of it as of any other field.
    if (!byHand.current) return;
    byHand.current = false;
    field.current?.dispatchEvent(new Event("input", { bubbles: true }));
    field.current?.dispatchEvent(new Event("change", { bubbles: true }));
  }, [taken]);
  const shown = known?.label ?? (taken === "" ? (none ?? hint) : finder ? "…" : "(gone)");
  const Opened = finder || options.length > LISTED ? Searched : Listed;
  return (
    <>
      <Opened
        {...props}
        taken={taken}
        shown={shown}
        bare={!known && !(none !== undefined && taken === "")}
        take={(next) => {
          const value = next?.value ?? "";
          byHand.current = value !== taken;
          setOwn(next);
          setChosen({ initial, value });
          props.onValue?.(value);
        }}
      />
      {name && (
        <select
          ref={field}
          name={name}
          value={taken}
          onChange={() => {}}
          hidden
          aria-hidden
          tabIndex={-1}
        >
          <option value={taken}>{shown}</option>
        </select>
      )}
    </>
  );
}

interface Inner<V extends string> extends Props<V> {
  taken: V | "";
  shown: string;
  /** Nothing is chosen that could be named. */
  bare: boolean;
  take: (option: Option<V> | null) => void;
}

/** What stands on the page: the name of what is chosen. */
const Shown = ({ children }: { children: string }) => (
  <>
    <span className="truncate">{children}</span>
    <ChevronDown className="size-3.5 flex-none text-ink-3" aria-hidden />
  </>
);
const triggerOf = <V extends string>(props: Inner<V>) => ({
  id: props.id,
  "aria-label": props.label,
  "aria-describedby": props["aria-describedby"],
  "aria-invalid": props["aria-invalid"],
  autoFocus: props.autoFocus,
  disabled: props.disabled,
  "data-placeholder": props.bare ? "" : undefined,
  className: clsx(LOOK, props.look ?? FIELD, props.className ?? "w-full"),
});
const BOX = "z-50 max-w-[min(26rem,94vw)] rounded-md border border-line-strong bg-paper";

/** The list hides all else from screen readers; then nothing in it may be reached either. */
function Others() {
  useEffect(() => {
    const still: HTMLElement[] = [];
    // What is hidden is known when the list's own effects have run.
    queueMicrotask(() => {
      for (const one of document.querySelectorAll<HTMLElement>("[data-aria-hidden]")) {
        if (one.inert) continue;
        one.inert = true;
        still.push(one);
      }
    });
    return () => {
      for (const one of still) one.inert = false;
    };
  }, []);
  return null;
}

function Listed<V extends string>(props: Inner<V>) {
  const { options, none, taken, shown, take } = props;
  const [open, setOpen] = useState(false);
  return (
    <Radix.Root
      open={open}
      onOpenChange={setOpen}
      disabled={props.disabled}
      value={taken || EMPTY}
      onValueChange={(next) =>
        take(options.find(({ value }) => value === (next === EMPTY ? "" : next)) ?? null)
      }
    >
      <Radix.Trigger
        {...triggerOf(props)}
        onKeyDown={(event) => {
          // Keys with Ctrl are the page's.
          if (event.ctrlKey || event.metaKey) event.preventDefault();
        }}
      >
        <Shown>{shown}</Shown>
      </Radix.Trigger>
      {open && (
        <Radix.Portal>
          <Radix.Content
            position="popper"
            sideOffset={4}
            className={clsx(BOX, "max-h-(--radix-select-content-available-height)")}
          >
            <Others />
            <Radix.Viewport className="min-w-(--radix-select-trigger-width) p-1">
              {none !== undefined && <Entry value={EMPTY} label={none} />}
              {options.map((one) => (
                <Entry key={one.value} value={one.value || EMPTY} label={one.label} />
              ))}
            </Radix.Viewport>
          </Radix.Content>
        </Radix.Portal>
      )}
    </Radix.Root>
  );
}

const Entry = ({ value, label }: { value: string; label: string }) => (
  <Radix.Item
    value={value}
    className="flex cursor-pointer items-center gap-3 rounded py-1.5 pr-2 pl-2.5 text-body outline-none data-[highlighted]:bg-plum-soft data-[highlighted]:text-plum"
  >
    <Radix.ItemText>{label}</Radix.ItemText>
    <span className="ml-auto size-3.5 flex-none">
      <Radix.ItemIndicator>
        <Check className="size-3.5" aria-hidden />
      </Radix.ItemIndicator>
    </span>
  </Radix.Item>
);

function Searched<V extends string>(props: Inner<V>) {
  const { label = "Choose", options, none, shown, finder, take } = props;
  const [open, setOpen] = useState(false);
  const itemOf = (option: Option<V> | null): PickItem => ({
    key: option?.value ?? "",
    label: option?.label ?? none!,
    other: option?.other,
    onPick() {
      take(option);
      setOpen(false);
    },
  });
  const first = none === undefined ? [] : [itemOf(null)];
  return (
    <Pop.Root open={open} onOpenChange={setOpen}>
      <Pop.Trigger {...triggerOf(props)} role="combobox" aria-haspopup="listbox">
        <Shown>{shown}</Shown>
      </Pop.Trigger>
      <Pop.Portal>
        <Pop.Content aria-label={label} align="start" sideOffset={4} className={BOX}>
          <PickList
            label={label}
            hint="Type to find"
            empty="No matches."
            groups={[{ name: "", items: [...first, ...options.map(itemOf)] }]}
            find={
              finder &&
              (async (words) => {
                const found = (await finder.find(words)) as Option<V>[] | null;
                if (!found) return null;
                const own = matching(options, words, (one) => one);
                const known = new Set(own.map(({ value }) => value));
                const others = found.filter(({ value }) => !known.has(value));
                return [...(words === "" ? first : []), ...[...own, ...others].map(itemOf)];
              })
            }
          />
        </Pop.Content>
      </Pop.Portal>
    </Pop.Root>
  );
}
