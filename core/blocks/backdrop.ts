/** A picture behind a cell: for most engines by attribute and style, for the table-only one as a VML fill. */
import { attrs, type Markup, trusted } from "../markup/index.ts";

export interface Backdrop {
  /** For the cell: its attribute and its style. */
  readonly attributes: Markup | null;
  readonly style: Record<string, string>;
  /** Around what stands in the cell. */
  readonly open: Markup | null;
  readonly close: Markup | null;
}
export const NO_BACKDROP: Backdrop = { attributes: null, style: {}, open: null, close: null };

export interface BackdropShape {
  /** The picture's address, and the six-digit hex that shows where it does not. */
  readonly src: string;
  readonly ground: string;
  /** px; null is as wide as the window. */
  readonly width: number | null;
  /** px; 0 is as high as what stands in it. */
  readonly height: number;
  /** Where what stands in it stands. */
  readonly anchor: "top" | "bottom";
  /** The point of the picture that stays in sight, per cent from its start and its head; its middle where none is given. */
  readonly focus?: { readonly x: number; readonly y: number };
}

const MIDDLE = { x: 50, y: 50 };

export function backdropOf(shape: BackdropShape): Backdrop {
  const { src, ground, width, height, anchor, focus = MIDDLE } = shape;
  const across = width === null ? "mso-width-percent:1000" : `width:${width}px`;
  const down = height ? `;height:${height}px` : "";
  // Where words stand is said on the shape; whether it grows with them, on their box.
  const foot = anchor === "bottom" ? ";v-text-anchor:bottom" : "";
  const grows = height ? "" : ` style="mso-fit-shape-to-text:true"`;
  return {
    attributes: attrs({ background: src }),
    style: {
      "background-image": `url('${src}')`,
      "background-position":
        focus.x === MIDDLE.x && focus.y === MIDDLE.y ? "center" : `${focus.x}% ${focus.y}%`,
      "background-size": "cover",
    },
    open: trusted(
      `<!--[if mso]><v:rect fill="true" stroke="false" style="${across}${down}${foot}"><v:fill type="frame" aspect="atleast" src="${src}" color="${ground}"/><v:textbox inset="0,0,0,0"${grows}><![endif]--><div>`,
    ),
    close: trusted("</div><!--[if mso]></v:textbox></v:rect><![endif]-->"),
  };
}
