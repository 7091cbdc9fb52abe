/** Help with the subject, a moment after hands rest. */
import { useEffect, useState } from "react";
import type { EmailProps } from "#core/blocks/layout.ts";
import { wordsOf } from "#core/text/index.ts";
import type { SubjectAdvice } from "#core/writing/helper.ts";
import { useReading } from "../reading/reading.ts";
import { useSession } from "../session/session.ts";
import { askHelper } from "./ask.ts";

const REST_MS = 700;

export function SubjectHelp() {
  const { campaign } = useSession();
  const { doc } = useReading("doc");
  const { envelope, lang } = doc.root.props as unknown as EmailProps;
  const subject = wordsOf(envelope.subject);
  const preview = wordsOf(envelope.preview);
  const [advice, setAdvice] = useState<SubjectAdvice | null>(null);
  useEffect(() => {
    let stale = false;
    const timer = setTimeout(async () => {
      const next = await askHelper(campaign, { about: "subject", subject, preview, lang });
      if (!stale) setAdvice(next);
    }, REST_MS);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [campaign, subject, preview, lang]);
  if (!advice || subject === "") return null;
  const { length, shown, remarks, alike, comparisons } = advice;
  return (
    <section aria-label="Help with the subject" className="flex flex-col gap-1.5 text-small">
      <p className={length > shown ? "text-saffron-ink" : "text-ink-2"}>
        {length} characters; small phones show {shown}.
      </p>
      {remarks.length > 0 && (
        <ul className="flex flex-col gap-1">
          {remarks.map((remark) => (
            <li key={remark} className="border-l-[3px] border-saffron pl-2">
              {remark}
            </li>
          ))}
        </ul>
      )}
      {comparisons.map((one) => (
        <p key={one} className="text-ink-2">
          {one}
        </p>
      ))}
      {alike.length > 0 && (
        <>
          <h4 className="text-small text-ink-2 italic">Earlier ones like it</h4>
          <ul>
            {alike.map((one) => (
              <li key={one.subject} className="flex justify-between gap-2">
                <span className="truncate">{one.subject}</span>
                <span className="flex-none text-ink-3">
                  {Math.round(one.opened * 100)} % opened
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
