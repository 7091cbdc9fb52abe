/** Where something of the library stands. */
import { Link } from "react-router";
import type { Use } from "#server/store/uses.ts";
import { Chip } from "../ui/page.tsx";

const HREF = {
  campaign: (id: string) => `/campaigns/${id}`,
  template: (id: string) => `/templates/${id}`,
  saved: () => "/library/saved",
  derived: (id: string) => `/library/derived/${id}`,
  settings: () => "/settings",
} as const;
const KIND = {
  campaign: "email",
  template: "template",
  saved: "saved block",
  derived: "derived tag",
  settings: "logo",
} as const;

export function Uses({
  uses,
  nowhere = "Nowhere yet.",
}: {
  uses: readonly Use[];
  nowhere?: string;
}) {
  if (uses.length === 0) return <p className="text-ink-3">{nowhere}</p>;
  return (
    <ul className="flex flex-col gap-1">
      {uses.map(({ kind, id, name, fixed }) => (
        <li key={`${kind}${id}`}>
          <Link className="link" to={HREF[kind](id)}>
            {name}
          </Link>{" "}
          <Chip>{fixed ? "scheduled" : KIND[kind]}</Chip>
        </li>
      ))}
    </ul>
  );
}
