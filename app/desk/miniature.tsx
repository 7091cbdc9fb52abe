/** A small drawing of an email: bands and blocks by their kinds, in its colours. */

export interface Stroke {
  readonly kind: "words" | "title" | "picture" | "button" | "gap";
  readonly colour: string;
}
export interface MiniBand {
  readonly ground: string;
  readonly columns: readonly (readonly Stroke[])[];
}

function Mark({ kind, colour }: Stroke) {
  if (kind === "picture") {
    return (
      <div
        className="h-9 w-full"
        style={{ background: "linear-gradient(#dfe9de 45%, #9db89b 46% 70%, #5f8465 71%)" }}
      />
    );
  }
  if (kind === "button")
    return <div className="h-3 w-2/5 rounded-sm" style={{ background: colour }} />;
  if (kind === "title") {
    return <div className="h-1.5 w-3/5 rounded-sm opacity-80" style={{ background: colour }} />;
  }
  if (kind === "words") {
    return (
      <div className="flex w-full flex-col gap-1 opacity-25">
        <div className="h-1 w-full rounded-sm" style={{ background: colour }} />
        <div className="h-1 w-4/5 rounded-sm" style={{ background: colour }} />
      </div>
    );
  }
  return <div className="h-px w-full bg-[#0000001f]" />;
}

export function Miniature({ bands }: { bands: readonly MiniBand[] }) {
  return (
    <div aria-hidden className="h-[132px] overflow-hidden rounded-t-md bg-bench px-12 pt-3.5">
      <div className="border border-line bg-[#ffffff]">
        {bands.map((band, i) => (
          <div key={i} className="flex gap-2 px-2.5 py-1.5" style={{ background: band.ground }}>
            {band.columns.map((column, j) => (
              <div key={j} className="flex flex-1 flex-col gap-1.5">
                {column.map((one, k) => (
                  <Mark key={k} {...one} />
                ))}
              </div>
            ))}
          </div>
        ))}
      </div>
    </div>
  );
}
