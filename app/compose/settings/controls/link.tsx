import { useState } from "react";
import { type Json, sameJson } from "#core/json.ts";
import type { Link } from "#core/text/index.ts";
import { checkedLink, LinkFields } from "../../text/link-fields.tsx";
import { type Props, useValue } from "./control.ts";

export function LinkControl({ node, control }: Props<"link">) {
  const [link, set] = useValue<Link>(node, control.path);
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <LinkFields
      label={control.label}
      link={link}
      problem={problem}
      onLink={(next) => {
        const checked = checkedLink(next);
        setProblem(checked.problem);
        if (checked.link && !sameJson(checked.link as unknown as Json, link as unknown as Json)) {
          set(checked.link as unknown as Json);
        }
      }}
    />
  );
}
