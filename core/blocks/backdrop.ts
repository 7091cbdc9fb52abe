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
}

export function backdropOf({ src, ground, width, height, anchor }: BackdropShape): Backdrop {
  const across = width === null ? "mso-width-percent:1000" : `width:${width}px`;
  const down = height ? `;height:${height}px` : "";
  const box = [
    ...(height ? [] : ["mso-fit-shape-to-text:true"]),
    ...(anchor === "bottom" ? ["v-text-anchor:bottom"] : []),
  ].join(";");
  const style = box ? ` style="${box}"` : "";
  return {
    attributes: attrs({ background: src }),
    style: {
      "background-image": `url('${src}')`,
      "background-position": "center",
      "background-size": "cover",
    },
    open: trusted(
      `<!--[if mso]><v:rect fill="true" stroke="false" style="${across}${down}"><v:fill type="frame" src="${src}" color="${ground}"/><v:textbox inset="0,0,0,0"${style}><![endif]--><div>`,
    ),
    close: trusted("</div><!--[if mso]></v:textbox></v:rect><![endif]-->"),
  };
}
