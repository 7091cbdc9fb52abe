/** Where a link leads: its kind, what belongs to it, and the addresses used before. */
import { useEffect, useState } from "react";
import { nameOf } from "#core/blocks/names.ts";
import { sameJson } from "#core/json.ts";
import { CALENDAR_FILE } from "#core/render/index.ts";
import { type Link, line, linkSchema, withScheme } from "#core/text/index.ts";
import { Field, INPUT } from "../../ui/field.tsx";
import { named, Select } from "../../ui/select.tsx";
import { readingOrder } from "../doing/actions.ts";
import { type Designed, useDesigned } from "../live/item-tags.ts";
import { useReading } from "../reading/reading.ts";
import { createRemote } from "../session/remote.ts";
import { useSession } from "../session/session.ts";
import { FileFields } from "./file-link.tsx";
import { LineInput } from "./line-input.tsx";

const KINDS = [
  ["none", "Nowhere"],
  ["web", "A web address"],
  ["mail", "An email address"],
  ["phone", "A phone number"],
  ["file", "A file"],
  ["place", "A place in this email"],
  ["derived", "Where a derived tag says"],
  ["webVersion", "The web version"],
  ["preferences", "Choosing what to get"],
  ["unsubscribe", "Unsubscribe"],
] as const;

const startOf = (kind: string): Link => {
  if (kind === "web") return { kind, address: line() };
  if (kind === "mail") return { kind, address: "" };
  if (kind === "phone") return { kind, number: "" };
  if (kind === "file") return { kind, file: "", name: "" };
  if (kind === "place") return { kind, node: "" };
  if (kind === "derived") return { kind, tag: "" };
  return { kind } as Link;
};

/** A link as it was given, or what is wrong with it. */
export function checkedLink(link: Link): { link: Link | null; problem: string | null } {
  const whole = link.kind === "web" ? { ...link, address: withScheme(link.address) } : link;
  const result = linkSchema.safeParse(whole);
  return result.success
    ? { link: result.data, problem: null }
    : { link: null, problem: result.error.issues[0]?.message ?? "This does not fit." };
}

/** How many of the addresses used before are offered. */
const OFFERED = 40;

/** Web addresses of this and of earlier campaigns. The list stays as it is, so that nothing moves under the pointer. */
function UsedBefore({ onTake }: { onTake: (address: string) => void }) {
  const { campaign } = useSession();
  const [used, setUsed] = useState<readonly string[]>([]);
  useEffect(() => {
    let gone = false;
    void createRemote(campaign)
      .ask<string[]>("addresses")
      .then((addresses) => !gone && setUsed((addresses ?? []).slice(0, OFFERED)));
    return () => {
      gone = true;
    };
  }, [campaign]);
  if (used.length === 0) return null;
  return (
    <div>
      <div className="mb-0.5 text-small text-ink-2">Used before</div>
      <ul aria-label="Used before" className="max-h-28 overflow-auto">
        {used.map((address) => (
          <li key={address}>
            <button
              type="button"
              title={address}
              className="w-full truncate rounded px-1.5 py-0.5 text-left text-small hover:bg-plum-soft hover:text-plum"
              onClick={() => onTake(address)}
            >
              {address.replace(/^https?:\/\//, "")}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** The bands and blocks of the email, to choose one that the link leads to. */
function Places({ node, onLink }: { node: string; onLink: (link: Link) => void }) {
  const { doc } = useReading("doc");
  return (
    <Field label="Place">
      {(ids) => (
        <Select
          {...ids}
          value={node}
          hint="Choose a band or a block"
          options={readingOrder(doc).map((one) => ({
            value: one.id,
            label: one.type === "band" ? nameOf(one) : `– ${nameOf(one)}`,
          }))}
          onValue={(node) => onLink({ kind: "place", node })}
        />
      )}
    </Field>
  );
}

/** The derived tags that give an address. */
function DerivedLinks({ tag, onLink }: { tag: string; onLink: (link: Link) => void }) {
  const { tags } = useReading("tags");
  const links = [...tags.derived.values()].filter(({ kind }) => kind === "link");
  return (
    <Field
      label="Derived tag"
      hint={links.length === 0 ? "There is none yet: make one in the library." : undefined}
    >
      {(ids) => (
        <Select
          {...ids}
          value={tag}
          hint="Choose one"
          options={named(links)}
          onValue={(tag) => onLink({ kind: "derived", tag })}
        />
      )}
    </Field>
  );
}

/** Where the fields of an item lead, in its design. */
function ownLinks(designed: Designed | null): { value: string; label: string; link: Link }[] {
  if (!designed) return [];
  const to = (field: string): Link => ({
    kind: "web",
    address: line({ ref: `item:${field}`, fallback: "", format: null }),
  });
  const { kind, item } = designed.kind;
  return [
    { value: "item", label: `The ${item}`, link: to("link") },
    ...(kind === "calendar"
      ? [{ value: "file", label: "Its calendar file", link: to(CALENDAR_FILE) }]
      : []),
  ];
}

export function LinkFields({
  label,
  link,
  problem,
  without = [],
  onLink,
}: {
  label: string;
  link: Link;
  problem: string | null;
  /** Kinds that make no sense here. */
  without?: readonly Link["kind"][];
  onLink: (link: Link) => void;
}) {
  const offered = ownLinks(useDesigned());
  const own = offered.find((one) => sameJson(one.link as never, link as never));
  return (
    <div className="flex flex-col gap-2">
      <Field label={label}>
        {(ids) => (
          <Select
            {...ids}
            value={own?.value ?? link.kind}
            options={[
              ...offered,
              ...KINDS.filter(([kind]) => !without.includes(kind)).map(([value, label]) => ({
                value,
                label,
              })),
            ]}
            onValue={(kind) =>
              onLink(offered.find(({ value }) => value === kind)?.link ?? startOf(kind))
            }
          />
        )}
      </Field>
      {link.kind === "web" && !own && (
        <>
          <LineInput
            label="Address"
            text={link.address}
            error={problem}
            hint="For example larkmoor.example/visit; https:// is put before it."
            onText={(text) => onLink({ kind: "web", address: text })}
          />
          <UsedBefore onTake={(used) => onLink({ kind: "web", address: line(used) })} />
        </>
      )}
      {link.kind === "derived" && <DerivedLinks tag={link.tag} onLink={onLink} />}
      {link.kind === "file" && <FileFields link={link} onLink={onLink} />}
      {link.kind === "place" && <Places node={link.node} onLink={onLink} />}
      {(link.kind === "mail" || link.kind === "phone") && (
        <Field
          label={link.kind === "mail" ? "Address" : "Number"}
          errors={problem ? [problem] : null}
        >
          {(ids) => (
            <input
              {...ids}
              key={link.kind}
              defaultValue={link.kind === "mail" ? link.address : link.number}
              className={INPUT}
              onBlur={(event) => {
                const value = event.target.value.trim();
                onLink(
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
