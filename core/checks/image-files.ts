/** How heavy images are, whether they have pixels enough, and whether a thumb can hit them. */

import { kilobytes } from "../kilobytes.ts";
import type { Picture } from "../kinds/kind.ts";
import type { Mention } from "../mentions/index.ts";
import { nameInAddress, readName } from "../picture-id.ts";
import { type CompiledEmail, imageFilesOf, imagesOf } from "../render/index.ts";
import { type Check, placeOf } from "./check.ts";

const kb = (bytes: number) => `${kilobytes(bytes)} KB`;
type Pictures = ReadonlyMap<string, Picture>;
/** One image, and all together, bytes. */
const HEAVY = 300 * 1024;
const ALL = 1024 * 1024;

/** The widest file of each picture that is sent, px; those that are not in it go out as they are. */
function sentWidths(compiled: CompiledEmail, pictures: Pictures): Map<string, number> {
  const byName = new Map([...pictures.values()].map((one) => [nameInAddress(one.file), one]));
  const widest = new Map<string, number>();
  for (const src of imageFilesOf(compiled.html)) {
    const { name, width } = readName(src);
    const picture = byName.get(name);
    if (!picture) continue;
    widest.set(picture.id, Math.max(widest.get(picture.id) ?? 0, width ?? picture.width));
  }
  return widest;
}

/** About as many bytes as a picture has at a width: they go with its area. */
const bytesSent = (picture: Picture | undefined, width: number | undefined): number =>
  picture ? Math.round((picture.bytes ?? 0) * ((width ?? picture.width) / picture.width) ** 2) : 0;

export const imageWeight: Check = {
  id: "image-weight",
  run({ compiled, mentions, surroundings: { pictures } }) {
    const sent = sentWidths(compiled, pictures);
    const shown = new Map<string, Mention>();
    for (const one of mentions) {
      if (one.what === "picture" && !shown.has(one.picture)) shown.set(one.picture, one);
    }
    const weighed = [...shown].map(([id, mention]) => ({
      mention,
      name: pictures.get(id)?.name ?? "",
      bytes: bytesSent(pictures.get(id), sent.get(id)),
    }));
    const heavy = weighed.filter(({ bytes }) => bytes > HEAVY);
    const all = weighed.reduce((sum, { bytes }) => sum + bytes, 0);
    return [
      ...heavy.map(({ mention, name, bytes }) => ({
        check: "image-weight",
        severity: "look" as const,
        message: `An image weighs ${kb(bytes)}`,
        detail: `“${name}”: on a slow line readers are gone before it is there. Some 200 KB are enough.`,
        at: placeOf(mention.node),
        in: mention.path,
      })),
      ...(all > ALL
        ? [
            {
              check: "image-weight",
              severity: "look" as const,
              message: `All images together weigh ${kb(all)}`,
              detail: `There are ${weighed.length}; 1 MB is much already.`,
              at: "email",
            },
          ]
        : []),
    ];
  },
};

/** Images that are drawn larger than they are. */
export const imageSize: Check = {
  id: "image-size",
  run({ compiled, surroundings: { pictures } }) {
    if (pictures.size === 0) return [];
    const all = [...pictures.values()];
    return imagesOf(compiled.html).flatMap(({ node, src, width }) => {
      const { name } = readName(src.slice(src.lastIndexOf("/") + 1));
      const own = all.find(({ id, file }) => src === id || name === nameInAddress(file));
      if (!own || own.width >= width) return [];
      return [
        {
          check: "image-size",
          severity: "look" as const,
          message: "An image has too few pixels for its place",
          detail: `“${own.name}” is ${own.width} px wide and shown at ${width}: it will be blurred.`,
          at: node,
          in: ["picture"],
        },
      ];
    });
  },
};

/** px; links that are smaller are missed by many (WCAG 2.2, 2.5.8). Links in rows and signs have their room by themselves. */
const TARGET = 24;

export const tapTargets: Check = {
  id: "tap-target",
  run: ({ compiled }) =>
    imagesOf(compiled.html).flatMap(({ node, width, height, linked }) =>
      !linked || Math.min(width, height) >= TARGET
        ? []
        : [
            {
              check: "tap-target",
              severity: "look" as const,
              message: "A linked image is too small to tap",
              detail: `It is ${width} × ${height} px; ${TARGET} px each way is the least for a thumb.`,
              at: node,
            },
          ],
    ),
};
