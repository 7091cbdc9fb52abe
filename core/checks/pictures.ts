import type { PictureProps } from "../blocks/picture.ts";
import { alternativesOf, derivedIdOf, type PictureValue } from "../derived/index.ts";
import { walk } from "../document/index.ts";
import type { Finding } from "../kinds/kind.ts";
import { ITEM_PICTURE, isBlank } from "../text/index.ts";
import { type Check, placeOf } from "./check.ts";

/** Pictures that the library has no more: nothing can stand in their place. */
export const lostPictures: Check = {
  id: "no-picture",
  run: ({ mentions, surroundings: { pictures } }) =>
    mentions.flatMap((mention) => {
      if (mention.what !== "picture" || derivedIdOf(mention.picture) !== null) return [];
      if (mention.picture === ITEM_PICTURE) return [];
      if (pictures.has(mention.picture)) return [];
      return [
        {
          check: "no-picture",
          severity: "stop" as const,
          message: "An image is gone from the library",
          detail: "Choose another, or take it out.",
          at: placeOf(mention.node),
          in: mention.path,
        },
      ];
    }),
};

/** What chooses a picture for each reader has a picture for everybody and words for each. */
export const chosenPictures: Check = {
  id: "chosen-picture",
  run: ({ doc, surroundings: { derived } }) =>
    [...walk(doc.root)].flatMap((node) => {
      const { picture, alt, decorative } = node.props as Partial<PictureProps>;
      const id = typeof picture === "string" ? derivedIdOf(picture) : null;
      if (id === null) return [];
      const add = (
        severity: Finding["severity"],
        message: string,
        detail: string,
        field = "picture",
      ) => [{ check: "chosen-picture", severity, message, detail, at: node.id, in: [field] }];
      const tag = derived?.get(id);
      // One that is gone is found with all others that are.
      if (!tag) return [];
      if (tag.kind !== "picture") {
        return add("stop", `“${tag.name}” gives no image`, "Choose one, or another derived tag.");
      }
      const values = alternativesOf<PictureValue>(tag).map(({ value }) => value);
      if (values.some((one) => one.picture === null)) {
        return add(
          "look",
          `Some readers get no image of “${tag.name}”`,
          "Give its last resort one.",
        );
      }
      if (!decorative && alt && isBlank(alt) && values.some((one) => isBlank(one.alt))) {
        return add(
          "look",
          `An image of “${tag.name}” has no alt text`,
          "Write it there, or here for all of them.",
          "alt",
        );
      }
      return [];
    }),
};

/** A see-through picture may vanish where its ground goes dark, unless something stands behind it. */
export const seeThrough: Check = {
  id: "see-through",
  run: ({ doc, surroundings: { pictures, derived } }) =>
    [...walk(doc.root)].flatMap((node) => {
      const { picture, backing } = node.props as { picture?: unknown; backing?: unknown };
      if (typeof picture !== "string" || backing !== null) return [];
      const tag = derived?.get(derivedIdOf(picture) ?? "");
      const all = tag
        ? alternativesOf<PictureValue>(tag).map(({ value }) => value.picture)
        : [picture];
      if (!all.some((one) => one && pictures.get(one)?.alpha)) return [];
      return [
        {
          check: "see-through",
          severity: "look" as const,
          message: "A transparent image may vanish in the dark",
          detail: "Give it a ground of its own, if it is dark itself.",
          at: node.id,
          in: ["backing"],
        },
      ];
    }),
};

/** As much of a frame in one tone is nearly empty, per cent. */
const EMPTY = 97;

/** Some mail programs show the first frame of an animation and no other: it has to say it all. */
export const firstFrame: Check = {
  id: "first-frame",
  run: ({ mentions, surroundings: { pictures } }) =>
    mentions.flatMap((mention) => {
      if (mention.what !== "picture") return [];
      const picture = pictures.get(mention.picture);
      // Only what moves is kept as a GIF.
      if (!picture?.file.endsWith(".gif") || !picture.tones?.some((share) => share >= EMPTY)) {
        return [];
      }
      return [
        {
          check: "first-frame",
          severity: "look" as const,
          message: "An animation begins with a frame that is nearly empty",
          detail: `Some mail programs show the first frame of “${picture.name}” alone. Take one that begins with what it shows.`,
          at: placeOf(mention.node),
          in: mention.path,
        },
      ];
    }),
};
