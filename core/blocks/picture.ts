/** A picture as blocks show it: with alt text, at its display size, linked where that is wanted. */
import { z } from "zod";
import { alternativesOf, DERIVED_ID, derivedIdOf, type PictureValue } from "../derived/index.ts";
import { type Align, sideOf } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockContext, Control, Picture } from "../kinds/kind.ts";
import {
  addressText,
  attrs,
  css,
  hrefMarkup,
  html,
  join,
  lineMarkup,
  Markup,
  onSheetOnly,
  plain,
  type Recipe,
  shownWhen,
  slot,
} from "../markup/index.ts";
import { PICTURE_ID, pictureAddress } from "../picture-id.ts";
import { isMiddle } from "../pictures/crop.ts";
import { sentWidth } from "../pictures/sizes.ts";
import {
  ITEM_PICTURE,
  isBlank,
  isEmptyLink,
  type Line,
  type Link,
  lineSchema,
  wordsOf,
} from "../text/index.ts";
import { type Colour, colourSchema, FONTS, inkOn } from "../theme/theme.ts";
import { LAYOUT_TABLE } from "./columns.ts";

export const pictureId = z.string().regex(PICTURE_ID);

/** A picture of the library, that of the item whose design it stands in, or the derived tag that chooses one for each reader. */
const anyPictureId = z.string().refine((id) => {
  const tag = derivedIdOf(id);
  if (id === ITEM_PICTURE) return true;
  return tag === null ? PICTURE_ID.test(id) : DERIVED_ID.test(tag) && id === `derived:${tag}`;
});

/** The properties of a picture, for spreading into a block's schema. */
export const pictureShape = {
  /** The id of a picture, or of a derived tag as `derived:ID`; null while there is none. */
  picture: anyPictureId.nullable(),
  alt: lineSchema,
  /** Purely decorative: read aloud as nothing, and no alt text is asked for. */
  decorative: z.boolean(),
  /** A ground behind a transparent picture, so that a dark logo is seen where grounds go dark. */
  backing: colourSchema.nullable(),
};
/** All that belongs to a picture, where it is a part that can be switched off. */
export const pictureOf = (part: string): Readonly<Record<string, string>> =>
  Object.fromEntries(Object.keys(pictureShape).map((property) => [property, part]));
export interface PictureProps {
  readonly picture: string | null;
  readonly alt: Line;
  readonly decorative: boolean;
  readonly backing: Colour | null;
}
export const newPicture = (picture: string | null = null, alt: Line): PictureProps => ({
  picture,
  alt,
  decorative: false,
  backing: null,
});

/** The settings of a picture, but for where it leads. */
export const pictureControls: readonly Control[] = [
  { control: "picture", path: ["picture"], label: "Image" },
  {
    control: "line",
    path: ["alt"],
    label: "Alt text",
    hint: "What the image shows, for those who do not see it.",
  },
  { control: "switch", path: ["decorative"], label: "Only decoration" },
];

const otherPicture = z.strictObject({ picture: pictureId.nullable() });
/** Pictures that stand in for one where programs are dark, and where the window is narrow. */
export const versionsShape = { dark: otherPicture, narrow: otherPicture };
export interface PictureVersions {
  readonly dark: { readonly picture: string | null };
  readonly narrow: { readonly picture: string | null };
}
export const NO_VERSIONS: PictureVersions = { dark: { picture: null }, narrow: { picture: null } };
export const versionControls: readonly Control[] = [
  { control: "picture", path: ["dark", "picture"], label: "Another in dark programs", same: true },
  { control: "picture", path: ["narrow", "picture"], label: "Another on narrow", same: true },
];
/** Its backing stands among the styles. */
export const backingControl: Control = {
  control: "colour",
  path: ["backing"],
  label: "Behind a transparent image",
  none: "Nothing",
};

export interface PictureOptions {
  /** px */
  readonly width: number;
  /** px; the server cuts the picture to this shape. */
  readonly height?: number;
  readonly corner?: number;
  readonly to?: Link;
  /** It fills its place on narrow, which may be wider there. */
  readonly grows?: boolean;
  /** What stands where there is no picture yet. */
  readonly missing?: string;
  readonly versions?: PictureVersions;
}

/** What a picture is made from, and the format that suits it. */
export const source = (picture: Picture) => ({
  picture: picture.id,
  format: picture.file.endsWith(".jpg") ? "jpg" : "png",
});

/** The address of a picture that the server makes. */
export const made = (recipe: Recipe): Markup => slot({ slot: "made", recipe });

/** What is written for each picture that a derived tag can choose, shown to those it is chosen for. */
export function eachPicture<P extends PictureProps>(
  props: P,
  ctx: BlockContext,
  write: (props: P) => Markup,
): Markup {
  const id = props.picture === null ? null : derivedIdOf(props.picture);
  if (id === null) return write(props);
  const tag = ctx.derived?.get(id);
  if (tag?.kind !== "picture") return write({ ...props, picture: null });
  return join(
    alternativesOf<PictureValue>(tag).map(({ when, value: { picture, alt } }) =>
      shownWhen(when, write({ ...props, picture, alt: isBlank(alt) ? props.alt : alt })),
    ),
  );
}

/**
 * An `img` with what every engine needs; `src` may hold slots. One of two for a `scheme` is shown where programs are
 * light or dark.
 */
export function imgTag(
  ctx: BlockContext,
  img: { src: string | Markup; alt: Markup; width: number; height: number },
  options: {
    corner?: number;
    backing?: Colour | null;
    grows?: boolean;
    scheme?: "light" | "dark";
  } = {},
): Markup {
  const { src, alt, width, height } = img;
  const { scheme } = options;
  // Alt text, where pictures are off, is written as the words of the cell are, or so that it can be read on a backing.
  const { backing } = options;
  const look = dress(
    ctx.theme,
    { ink: backing && inkOn(backing, ctx.theme), ground: backing },
    {
      display: scheme === "dark" ? "none" : "block",
      width: "100%",
      "max-width": `${width}px`,
      height: "auto",
      "border-radius": options.corner ? `${options.corner}px` : null,
    },
    {
      classes: [options.grows ? "im" : null, scheme === "light" && "dl", scheme === "dark" && "dd"],
    },
  );
  return html`<img${attrs({ src, width, height })} alt="${alt}"${look}>`;
}

/** The picture (px wide), or the place where it will be. */
export const pictureHtml = (
  props: PictureProps,
  ctx: BlockContext,
  options: PictureOptions,
): Markup => eachPicture(props, ctx, (one) => onePicture(one, ctx, options));

function onePicture(props: PictureProps, ctx: BlockContext, options: PictureOptions): Markup {
  const { width, to, versions = NO_VERSIONS } = options;
  const of = (id: string | null) => (id ? ctx.pictures.get(id) : undefined);
  const picture = of(props.picture);
  if (!picture) return placeholder(ctx, width, options.missing ?? "No image yet", options.height);
  const dark = ctx.theme.dark ? of(versions.dark.picture) : undefined;
  const narrow = of(versions.narrow.picture);
  const img = (one: Picture, scheme?: "light" | "dark") =>
    pictureImg(one, props, ctx, options, scheme);
  const wide = dark ? html`${img(picture, "light")}${img(dark, "dark")}` : img(picture);
  const shown = narrow
    ? html`<div class="nw">${wide}</div><div class="nb" style="display:none">${img(narrow)}</div>`
    : wide;
  return linked(shown, to, ctx, wordsOf(props.alt) || "Image");
}

/** A picture cut to a shape, with its point in sight where it has one. */
function cutTo(picture: Picture, width: number, height: number): Markup {
  const settings = { ...source(picture), width, height };
  const { focus } = picture;
  return focus && !isMiddle(focus)
    ? made({ kind: "cut", words: null, settings: { ...settings, ...focus } })
    : made({ kind: "crop", words: null, settings });
}

/** A picture of the library at its size. */
function pictureImg(
  picture: Picture,
  props: PictureProps,
  ctx: BlockContext,
  { width, corner, grows, ...options }: PictureOptions,
  scheme?: "light" | "dark",
): Markup {
  const cut = options.height ?? (ctx.shape && Math.max(1, Math.round((width * ctx.shape) / 100)));
  const height = cut ?? Math.max(1, Math.round((width * picture.height) / picture.width));
  const src = cut
    ? cutTo(picture, width, height)
    : pictureAddress(ctx.publicAddress, picture, sentWidth(picture, width, grows ?? false));
  const alt = props.decorative ? Markup.empty : lineMarkup(props.alt, "attribute");
  const look = { corner, grows, backing: props.backing, scheme };
  return imgTag(ctx, { src, alt, width, height }, look);
}

/** A picture as the link it may be. */
export function linked(
  img: Markup,
  to: Link | undefined,
  ctx: BlockContext,
  words: string,
): Markup {
  const href = to && hrefMarkup(to, ctx.node, words);
  // Where pictures are off, the alt text is written as the words around it are, and not as a link's.
  return href ? html`<a${href} style="color:inherit;text-decoration:none">${img}</a>` : img;
}

/** An empty picture shows where it will be, on the sheet; nobody gets that. */
function placeholder(ctx: BlockContext, width: number, words: string, height = 120): Markup {
  const table = dress(ctx.theme, {}, { width: "100%", "max-width": `${width}px` });
  const cell = dress(
    ctx.theme,
    { ink: "quiet", rule: "line" },
    {
      height: `${height}px`,
      border: `1px dashed ${ctx.theme.colours.line}`,
      "font-family": FONTS.plainSans.stack,
      "font-size": "14px",
      "text-align": "center",
    },
  );
  return onSheetOnly(
    html`${LAYOUT_TABLE} width="${width}"${table}><tr><td align="center" height="${height}"${cell}>${words}</td></tr></table>`,
  );
}

/** The picture in plain text: its alt text, and where it leads. */
export const pictureText = (props: PictureProps, ctx: BlockContext, to: Link): Markup =>
  eachPicture(props, ctx, ({ decorative, alt }) => {
    // Where it leads stands there even if nothing says what it shows.
    if (decorative || isBlank(alt)) return addressText(to, ctx.node, "", "") ?? Markup.empty;
    const words = plain`[${lineMarkup(alt, "text")}]`;
    return plain`${words}${addressText(to, ctx.node, wordsOf(alt), "\n")}`;
  });

/** What the proof says about a picture, and the link it is. */
export function pictureFindings(props: PictureProps, to?: Link) {
  // A derived tag says it with each of its pictures.
  const chosen = props.picture !== null && derivedIdOf(props.picture) !== null;
  if (props.picture === null) {
    return [
      {
        check: "no-picture",
        severity: "stop" as const,
        message: "An image is missing",
        in: ["picture"],
        detail: "Choose one, or take the image out.",
      },
    ];
  }
  if (chosen || (!props.decorative && !isBlank(props.alt))) return [];
  if (to && !isEmptyLink(to)) {
    return [
      {
        check: "alt-text",
        severity: "stop" as const,
        message: props.decorative
          ? "A linked image is marked as decoration"
          : "A linked image has no alt text",
        in: [props.decorative ? "decorative" : "alt"],
        detail: "The alt text is the link’s name for those who listen, or see no images.",
      },
    ];
  }
  if (props.decorative) return [];
  return [
    {
      check: "alt-text",
      severity: "look" as const,
      message: "An image has no alt text",
      in: ["alt"],
      detail: "Readers with images off, or who listen, get nothing from it.",
    },
  ];
}

/** A table `width` px wide at most, standing where the block's alignment says; `grows` fills narrow. */
export function placed(
  inner: Markup,
  width: number,
  align: Align,
  ctx: BlockContext,
  grows = false,
): Markup {
  const side = align === "start" ? null : sideOf(align, ctx.dir);
  const style = css({
    width: "100%",
    "max-width": `${width}px`,
    margin: align === "center" ? "0 auto" : null,
  });
  const cls = grows ? "im" : null;
  return html`${LAYOUT_TABLE}${attrs({ width, align: side, class: cls })} style="${style}"><tr><td width="${width}">${inner}</td></tr></table>`;
}
