/** What readers answered to the questions of an email. */
import type { Answered } from "#server/campaigns/answers.ts";
import { count, people, percent } from "../ui/words.ts";

export function Answers({ questions }: { questions: readonly Answered[] }) {
  return (
    <section aria-label="Answers" className="mb-8">
      <h2 className="mb-2 text-head">Answers</h2>
      <div className="grid grid-cols-2 gap-10 max-lg:grid-cols-1">
        {questions.map((one) => (
          <div key={one.id}>
            <h3 className="text-title">{one.asks}</h3>
            <p className="mb-2 text-small text-ink-2">
              {people(one.people)} answered, each counted once, by their last answer.
            </p>
            <ul>
              {one.answers.map(({ words, people: those }) => (
                <li key={words} className="grid grid-cols-[1fr_120px_90px] items-center gap-3 py-1">
                  <span>{words}</span>
                  <span aria-hidden className="h-2 overflow-hidden rounded-full bg-bench">
                    <span
                      className="block h-full bg-leaf"
                      style={{ width: `${one.people ? (100 * those) / one.people : 0}%` }}
                    />
                  </span>
                  <span className="text-right">
                    {count(those)} · {percent(those, one.people)}
                  </span>
                </li>
              ))}
            </ul>
            {one.said.length > 0 && (
              <details className="mt-2 text-small">
                <summary className="cursor-pointer">
                  What they said: {count(one.said.length)}
                </summary>
                <ul className="mt-1 max-h-72 overflow-auto">
                  {one.said.map(({ words, answer, email }, i) => (
                    <li key={i} className="border-b py-1.5 whitespace-pre-wrap">
                      {words}
                      <span className="block text-ink-2">
                        {answer}
                        {email && `, ${email}`}
                      </span>
                    </li>
                  ))}
                </ul>
              </details>
            )}
          </div>
        ))}
      </div>
    </section>
  );
}
