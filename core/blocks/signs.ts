/** Small signs of our own drawing, for links to elsewhere: neutral, with nobody's mark among them. */

export type SignShape = "bare" | "round" | "square";
export interface Sign {
  readonly name: string;
  readonly label: string;
  /** Strokes on a ground of 24 × 24. */
  readonly strokes: string;
}

/** A new sign is a line here. */
export const SIGNS: readonly Sign[] = [
  {
    name: "site",
    label: "Website",
    strokes:
      '<circle cx="12" cy="12" r="8"/><path d="M4 12h16M12 4c3 2.4 4 5 4 8s-1 5.6-4 8c-3-2.4-4-5-4-8s1-5.6 4-8"/>',
  },
  { name: "letter", label: "Email", strokes: '<path d="M4 6.5h16v11H4zM4 7l8 6 8-6"/>' },
  { name: "phone", label: "Phone", strokes: '<path d="M8 4h8v16H8zM11 17h2"/>' },
  {
    name: "photos",
    label: "Photos",
    strokes: '<path d="M4 8h4l1.5-2.5h5L16 8h4v11H4z"/><circle cx="12" cy="13" r="3.2"/>',
  },
  {
    name: "film",
    label: "Films",
    strokes: '<path d="M4 6h16v12H4z"/><path d="M10.5 9.5l4 2.5-4 2.5z"/>',
  },
  { name: "talk", label: "Conversation", strokes: '<path d="M4 5.5h16v10h-9l-4 4v-4H4z"/>' },
  {
    name: "people",
    label: "Community",
    strokes:
      '<circle cx="9" cy="9" r="2.8"/><circle cx="16.5" cy="10" r="2.2"/><path d="M3.5 18.5c0-3 2.4-5 5.5-5s5.5 2 5.5 5M15.5 14.2c3-.2 5 1.6 5 4.3"/>',
  },
  { name: "work", label: "Work", strokes: '<path d="M4 8.5h16v10H4zM9 8.5V6h6v2.5M4 13h16"/>' },
  {
    name: "sound",
    label: "Podcast",
    strokes: '<path d="M10 4.5h4v9h-4zM6.5 11.5c0 3 2.4 5 5.5 5s5.5-2 5.5-5M12 16.5V20"/>',
  },
  {
    name: "music",
    label: "Music",
    strokes:
      '<path d="M9 17V6l9-1.5v11"/><circle cx="7" cy="17" r="2"/><circle cx="16" cy="15.5" r="2"/>',
  },
  {
    name: "place",
    label: "Place",
    strokes:
      '<path d="M12 20.5c-4-5-6-8-6-10.7a6 6 0 0 1 12 0c0 2.7-2 5.7-6 10.7z"/><circle cx="12" cy="9.8" r="2.2"/>',
  },
  {
    name: "day",
    label: "Calendar",
    strokes: '<path d="M4.5 6.5h15v13h-15zM4.5 10.5h15M8.5 4v4M15.5 4v4"/>',
  },
  {
    name: "book",
    label: "Notebook",
    strokes:
      '<path d="M5 5h6a1.5 1.5 0 0 1 1 1.5V19a2 2 0 0 0-2-1H5zM19 5h-6a1.5 1.5 0 0 0-1 1.5V19a2 2 0 0 1 2-1h5z"/>',
  },
  {
    name: "waves",
    label: "Feed",
    strokes:
      '<path d="M5 5a14 14 0 0 1 14 14M5 11a8 8 0 0 1 8 8"/><circle cx="6.5" cy="17.5" r="1.2"/>',
  },
  {
    name: "chain",
    label: "Link",
    strokes:
      '<path d="M10.5 13.5l3-3M9 11l-2.5 2.5a3.2 3.2 0 0 0 4.5 4.5L13.5 15.5M15 13l2.5-2.5A3.2 3.2 0 0 0 13 6L10.5 8.5"/>',
  },
  {
    name: "heart",
    label: "Favourites",
    strokes:
      '<path d="M12 19.5C7 15.5 4.5 12.7 4.5 9.5c0-3 4.5-5 7.5-1 3-4 7.5-2 7.5 1 0 3.2-2.5 6-7.5 10z"/>',
  },
];

/** A sign as an SVG picture, `size` px on each side. */
export function signSvg(
  name: string,
  shape: SignShape,
  ink: string,
  ground: string,
  size: number,
): string {
  const sign = SIGNS.find((one) => one.name === name) ?? SIGNS[0]!;
  const plate =
    shape === "round"
      ? `<circle cx="12" cy="12" r="12" fill="${ground}"/>`
      : shape === "square"
        ? `<rect width="24" height="24" rx="5" fill="${ground}"/>`
        : "";
  const scale = shape === "bare" ? "" : ' transform="translate(3.6 3.6) scale(.7)"';
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${size}" height="${size}" viewBox="0 0 24 24">${plate}<g${scale} fill="none" stroke="${ink}" stroke-width="1.7" stroke-linecap="round" stroke-linejoin="round">${sign.strokes}</g></svg>`;
}
