/** How many people a campaign goes to. */
import type { AudienceCount } from "#server/store/readers.ts";
import { count, percent } from "../ui/words.ts";

/** How many get it, of all who can be mailed; a pause until they are counted. */
export function Total({ audience, mailable = 0 }: { audience?: AudienceCount; mailable?: number }) {
  return (
    <>
      <div
        className="font-display text-display leading-none"
        {...(audience && { "data-readers": "" })}
      >
        {audience ? count(audience.readers) : "…"}
      </div>
      <div className="mt-1 text-body text-ink-2">
        {audience?.readers === 1 ? "reader" : "readers"}
        {audience && `, ${percent(audience.readers, mailable)} of all who can be mailed`}
      </div>
    </>
  );
}

/** Who is in the choice and gets nothing. */
export function Suppressed({ audience, topic }: { audience: AudienceCount; topic: boolean }) {
  const { unsubscribed, bounced, blocked, complained, left, enough } = audience;
  const held = unsubscribed + bounced + blocked + complained + left + enough;
  return (
    <>
      <h2 className="mt-7 mb-1 text-title">Suppressed</h2>
      <p className="text-small text-ink-2">
        {held === 0 ? "Nobody in this choice." : "Also chosen, but nothing is sent to:"}
      </p>
      <dl className="mt-2">
        <div className="flex justify-between border-b py-1.5">
          <dt>Unsubscribed</dt>
          <dd className="font-display text-title" data-unsubscribed>
            {count(audience.unsubscribed)}
          </dd>
        </div>
        <div className="flex justify-between border-b py-1.5">
          <dt>Bounced before</dt>
          <dd className="font-display text-title">{count(audience.bounced)}</dd>
        </div>
        <div className="flex justify-between border-b py-1.5">
          <dt>Blocked</dt>
          <dd className="font-display text-title">{count(audience.blocked)}</dd>
        </div>
        {complained > 0 && (
          <div className="flex justify-between border-b py-1.5">
            <dt>Complained</dt>
            <dd className="font-display text-title">{count(complained)}</dd>
          </div>
        )}
        {enough > 0 && (
          <div className="flex justify-between border-b py-1.5">
            <dt>Had enough emails lately</dt>
            <dd className="font-display text-title" data-enough>
              {count(enough)}
            </dd>
          </div>
        )}
        {topic && (
          <div className="flex justify-between border-b py-1.5">
            <dt>Left the topic</dt>
            <dd className="font-display text-title" data-left>
              {count(audience.left)}
            </dd>
          </div>
        )}
      </dl>
    </>
  );
}
