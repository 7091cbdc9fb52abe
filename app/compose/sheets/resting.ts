/**
 * While somebody writes in one band, those out of sight rest: they are neither laid out nor painted again, and keep
 * the height they had (CSS Containment 2, `content-visibility`). A letter then costs no more in a long email than in
 * a short one.
 */
export interface Resting {
  /** The band that is written in. */
  readonly band: string;
  /** All is laid out and painted again. */
  end(): void;
}

/** Outlines of what is written stand a little beyond its band. */
const BEYOND = 12;

/** Lets the bands of a page rest. `heights`: of all of them, by their ids, px. */
export function rest(page: Document, band: string, heights: ReadonlyMap<string, number>): Resting {
  const style = page.createElement("style");
  style.textContent = [...heights]
    .map(
      ([id, height]) =>
        `[data-node="${id}"]{content-visibility:auto;contain-intrinsic-block-size:auto ${height}px;overflow-clip-margin:${BEYOND}px}`,
    )
    .join("\n");
  page.head.append(style);
  return { band, end: () => style.remove() };
}
