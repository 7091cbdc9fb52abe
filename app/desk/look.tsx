/** A small picture of an email: the email itself, made once for a state of it, loaded when it comes into sight. */

/** Where the look of a document's state is. */
export const lookOf = (
  { documentId, seq }: { documentId: string; seq: number },
  /** Another than its own, and what it is like now. */
  theme: { readonly key: string; readonly state: string } | null = null,
): string =>
  `/looks/${documentId}/${seq}${theme ? `?${new URLSearchParams({ theme: theme.key, v: theme.state })}` : ""}`;

/** The widths it is laid out at, px. */
const WIDTHS = { wide: 640, narrow: 375 } as const;

export function Look({
  src,
  scale = 0.32,
  height = 132,
  framed = true,
  at = "wide",
}: {
  src: string;
  scale?: number;
  /** Of what is shown, px. */
  height?: number;
  /** On the ground that sheets lie on. */
  framed?: boolean;
  at?: keyof typeof WIDTHS;
}) {
  const width = WIDTHS[at];
  return (
    <div
      aria-hidden
      className={
        framed
          ? "flex justify-center overflow-hidden rounded-t-md bg-bench pt-3.5"
          : "overflow-hidden rounded-sm outline-1 outline-line"
      }
      style={{ height, width: framed ? undefined : width * scale }}
    >
      <div className="flex-none overflow-hidden" style={{ width: width * scale, height }}>
        <iframe
          title="A small picture of the email"
          src={src}
          // As the sheets: nothing in it runs, and a page of them needs no process for each.
          sandbox="allow-same-origin"
          loading="lazy"
          tabIndex={-1}
          className="pointer-events-none origin-top-left bg-[#ffffff]"
          style={{
            // A little beyond its place: where that ends within a pixel, the frame's own ground would shine through.
            width: width + 2,
            height: height / scale,
            transform: `scale(${scale})`,
            colorScheme: "light",
          }}
        />
      </div>
    </div>
  );
}
