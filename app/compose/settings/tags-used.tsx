/** The merge tags an email uses, where, and how many readers see a fallback instead of a value. */
import { textsOf } from "#core/blocks/index.ts";
import { nameOf } from "#core/blocks/names.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { mentionsIn } from "#core/mentions/index.ts";
import type { Tag } from "#core/text/index.ts";
import { people } from "../../ui/words.ts";
import { useReading } from "../reading/reading.ts";
import { useSelecting } from "../selection/selection.ts";
import { useSession } from "../session/session.ts";
import { tagSources } from "../text/tag-sources.ts";
import { useTagShares } from "../text/use-tag-shares.ts";
import { Section } from "./parts.tsx";

interface Use {
  readonly tag: Tag;
  readonly at: string;
  readonly name: string;
}

/** Every value the email takes, with the places: texts in all languages, addresses, plain text and HTML by hand. */
function usesIn(doc: EmailDocument): Map<string, Use[]> {
  const uses = new Map<string, Use[]>();
  for (const mention of mentionsIn(doc)) {
    if (mention.what !== "tag") continue;
    const { tag, node, path } = mention;
    const email = node.type === "email";
    const text = textsOf(node.type).find((one) => one.path.join(".") === path.join("."));
    const at = email ? "envelope" : node.id;
    const name = email ? (text?.label ?? "Envelope") : nameOf(node);
    const before = uses.get(tag.ref) ?? [];
    if (!before.some((use) => use.at === at && use.name === name)) {
      uses.set(tag.ref, [...before, { tag, at, name }]);
    }
  }
  return uses;
}

export function TagsUsed() {
  const { doc, fields, tags, surroundings } = useReading("doc", "fields", "tags", "surroundings");
  const { campaign } = useSession();
  const { select } = useSelecting();
  const shares = useTagShares(campaign);
  const uses = usesIn(doc);
  if (uses.size === 0) return null;
  const known = new Map(
    tagSources(fields, tags.derived.values(), surroundings.rolls?.values() ?? []).map((one) => [
      one.ref,
      one.label,
    ]),
  );
  return (
    <Section title="Merge tags used">
      <ul>
        {[...uses].map(([ref, list]) => {
          const share = shares?.byRef.get(ref);
          const missing = share ? shares!.of - share.have : 0;
          const fallback =
            list.find(({ tag }) => tag.fallback)?.tag.fallback ?? tags.fallbacks.get(ref);
          return (
            <li key={ref} className="border-b py-1.5" data-tag-used={ref}>
              <div className="font-semibold">{known.get(ref) ?? "Something that is gone"}</div>
              <div className="flex flex-wrap gap-x-2">
                {list.map(({ at, name }, i) => (
                  <button
                    key={i}
                    type="button"
                    className="link text-small"
                    onClick={() => select(at)}
                  >
                    {name}
                  </button>
                ))}
              </div>
              {missing > 0 && (
                <p className="text-small text-saffron-ink">
                  {people(missing)} see {fallback ? `“${fallback}”` : "nothing there"}
                </p>
              )}
            </li>
          );
        })}
      </ul>
    </Section>
  );
}
