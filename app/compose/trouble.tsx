import type { Trouble } from "#core/blocks/read.ts";

/** Why an email can only be looked at, over its sheets. */
export function TroubleNote({ trouble }: { trouble: Trouble }) {
  return (
    <div role="status" className="border-b border-saffron bg-saffron-soft px-3.5 py-2 text-small">
      <strong>{trouble.reason}</strong>
      {trouble.lost.length > 0 && <> Not understood: {trouble.lost.join(", ")}.</>}
    </div>
  );
}
