import { textsOf } from "../blocks/index.ts";
import { find, valueAt, walk } from "../document/index.ts";
import { isJsonObject, type Json } from "../json.ts";
import { isEmptyLink, type Link, type TextJson } from "../text/index.ts";
import type { Check } from "./check.ts";

function emptyLinks(text: TextJson): string[] {
  const found: string[] = [];
  const visit = (node: TextJson) => {
    const to = node.marks?.find((mark) => mark.type === "link")?.attrs?.to as Link | undefined;
    if (to && isEmptyLink(to)) found.push(node.text ?? "…");
    node.content?.forEach(visit);
  };
  visit(text);
  return found;
}

/** Every place that something under a value of JSON leads to. */
function placesUnder(value: Json): string[] {
  if (Array.isArray(value)) return value.flatMap(placesUnder);
  if (!isJsonObject(value)) return [];
  const own = value.kind === "place" && typeof value.node === "string" ? [value.node] : [];
  return [...own, ...Object.values(value).flatMap(placesUnder)];
}

/** Links to a part of the email that was taken out since. */
export const lostPlaces: Check = {
  id: "lost-place",
  run: ({ doc }) =>
    [...walk(doc.root)].flatMap((node) =>
      placesUnder(node.props)
        .filter((place) => place !== "" && find(doc, place) === null)
        .map(() => ({
          check: "lost-place",
          severity: "look" as const,
          message: "A link leads to a part that is gone",
          detail: "Choose another place in this email, or take the link away.",
          at: node.id,
        })),
    ),
};

/** Links in running text that lead nowhere; blocks with a link of their own check it themselves. */
export const emptyTextLinks: Check = {
  id: "empty-link",
  run: ({ doc }) =>
    [...walk(doc.root)].flatMap((node) =>
      textsOf(node.type).flatMap(({ path }) => {
        const text = valueAt(node.props, path) as unknown as TextJson;
        return emptyLinks(text).map((words) => ({
          check: "empty-link",
          severity: "look" as const,
          message: `The link “${words}” leads nowhere`,
          detail: "Give it an address, or take the link away.",
          at: node.id,
        }));
      }),
    ),
};
