/** What a foreign email falls into, before it becomes blocks. */
import type { Look } from "./look.ts";
import type { Inner } from "./tree.ts";

interface Standing {
  readonly look: Look;
  /** px around it, from what it stands in: top, right, bottom, left. */
  pad: [number, number, number, number];
}

export type ForeignPiece = Standing &
  (
    | {
        readonly kind: "words";
        readonly nodes: readonly Inner[];
        readonly heading: 1 | 2 | 3 | null;
      }
    | {
        readonly kind: "image";
        readonly src: string;
        /** Null where nothing is said of it: an empty one says that it is decoration (HTML, 4.8.4.4). */
        readonly alt: string | null;
        readonly width: number | null;
        readonly href: string | null;
      }
    | {
        readonly kind: "button";
        readonly words: string;
        readonly href: string;
        /** Hex; null for one with a border alone. */
        readonly fill: string | null;
        readonly ink: string;
        readonly corner: number;
        readonly wide: boolean;
      }
    | { readonly kind: "divider"; readonly colour: string | null; readonly thickness: number }
    | { readonly kind: "spacer"; readonly height: number }
    | { readonly kind: "table"; readonly nodes: readonly Inner[] }
    | {
        readonly kind: "links";
        readonly links: readonly { readonly words: string; readonly href: string }[];
      }
    | {
        readonly kind: "icons";
        readonly icons: readonly {
          readonly src: string;
          readonly alt: string;
          readonly href: string | null;
        }[];
      }
    | { readonly kind: "html"; readonly nodes: readonly Inner[]; readonly why: string }
    | {
        readonly kind: "columns";
        readonly columns: readonly ForeignColumn[];
        readonly reversed: boolean;
      }
  );
export interface ForeignColumn {
  readonly share: number;
  readonly pieces: readonly ForeignPiece[];
}
export type KindOf<K extends ForeignPiece["kind"]> = Extract<ForeignPiece, { kind: K }>;

/** What came of it. */
export interface Notes {
  /** Hidden words at its head. */
  preview: string;
  /** Pictures that only count who opens it. */
  counters: number;
  /** Columns in columns that stand one under the other now. */
  stacked: number;
  /** A picture behind others, by its address. */
  readonly backdrops: string[];
}
export const newNotes = (): Notes => ({ preview: "", counters: 0, stacked: 0, backdrops: [] });
