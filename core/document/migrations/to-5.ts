/**
 * Version 5: words have a size of their own on narrow; images and logos another picture for dark and for narrow; and
 * blocks get the parts that were missing: portraits, captions, signatures, actions, barcodes, focal points.
 */
import { isJsonObject, type Json, type JsonObject } from "../../json.ts";
import type { Migration } from "./migration.ts";

const line = (text = ""): JsonObject =>
  text ? { type: "line", content: [{ type: "text", text }] } : { type: "line" };
const NO_PICTURE = { picture: null };
const NOWHERE = { kind: "none" };
const VERSIONS = { dark: NO_PICTURE, narrow: NO_PICTURE };

/** What a node of a type gets where it has not got it. */
const ADDED: Record<string, JsonObject> = {
  band: { focus: { x: 50, y: 50 }, even: false },
  quote: { ...NO_PICTURE, alt: line(), decorative: false, backing: null },
  table: { caption: line("What the table shows"), rowHeader: false },
  signOff: { to: NOWHERE, signature: NO_PICTURE, signatureWidth: 140 },
  image: VERSIONS,
  masthead: { ...VERSIONS, issue: line("Issue 1") },
  pictureAndWords: {
    level: 3,
    linkTitle: false,
    button: line("Read more"),
    look: "filled",
    fill: "accent",
    onFill: "onAccent",
  },
  "pictureGrid.picture": { price: line("12.00"), action: line("See it") },
  captionedPicture: { whole: false },
  button: {
    look: "filled",
    narrow: "same",
    second: line("Another way"),
    secondTo: { kind: "web", address: line() },
    secondLook: "outline",
  },
  coupon: { action: line("Use it now"), to: NOWHERE, until: null, barcode: "none" },
  divider: { share: 100 },
  spacer: { narrow: null },
  card: { to: NOWHERE },
  footer: {
    sentTo: {
      type: "line",
      content: [
        { type: "text", text: "This was sent to " },
        { type: "tag", attrs: { ref: "contact:email", fallback: null, format: null } },
        { type: "text", text: "." },
      ],
    },
  },
};

/** Parts that can be switched, by type; they are off, as they were not there before. */
const PARTS: Record<string, readonly string[]> = {
  quote: ["portrait"],
  table: ["caption"],
  signOff: ["signature"],
  masthead: ["issue"],
  pictureAndWords: ["button"],
  pictureGrid: ["price", "action"],
  button: ["second"],
  coupon: ["action", "until"],
  footer: ["sentTo"],
  qrCode: ["address"],
};

const own = <T>(of: Record<string, T>, type: string): T | undefined =>
  Object.hasOwn(of, type) ? of[type] : undefined;

function parts(type: string, before: Json | undefined): JsonObject {
  const names = own(PARTS, type) ?? [];
  return {
    ...Object.fromEntries(names.map((name) => [name, false])),
    ...(isJsonObject(before) ? before : {}),
  };
}
const typed = (type: Json): Json => (isJsonObject(type) ? { narrow: null, ...type } : type);

export const to5: Migration = {
  props: (type, before) => ({
    ...own(ADDED, type),
    ...before,
    ...(own(PARTS, type) && { parts: parts(type, before.parts) }),
    ...(before.type !== undefined && { type: typed(before.type) }),
  }),
  setting(type, path, value) {
    const name = path.join(".");
    if (value === undefined) return { path, value };
    if (name === "type") return { path, value: typed(value) };
    if (name === "parts" && own(PARTS, type)) return { path, value: parts(type, value) };
    return { path, value };
  },
};
