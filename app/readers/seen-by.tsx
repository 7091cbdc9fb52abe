/** The conditional parts of a campaign’s email, with how many of whom see each. */
import { Link } from "react-router";
import type { WhoSeesWhat } from "#server/audience/readers.ts";
import { count } from "../ui/words.ts";

export function SeenBy({ parts, versions, chosen }: WhoSeesWhat) {
  if (parts.length === 0) return null;
  return (
    <section aria-label="Who sees what" className="mt-9">
      <h2 className="mb-1 text-head">Who sees what</h2>
      <p className="mb-2 text-ink-2">
        {count(versions)} different emails come of these conditions.
      </p>
      <table className="w-full border-collapse text-left text-small">
        <thead>
          <tr className="border-b text-small text-ink-2">
            <th scope="col" className="py-1.5 pr-3">
              Part
            </th>
            <th scope="col" className="py-1.5 pr-3">
              For whom
            </th>
            <th scope="col" className="py-1.5 pr-3 text-right">
              Readers
            </th>
            {chosen.map((name) => (
              <th key={name} scope="col" className="py-1.5 pr-3 text-right">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {parts.map((part, i) => (
            <tr key={i} className="border-b">
              <th scope="row" className="max-w-48 truncate py-1.5 pr-3 font-semibold">
                <Link to={`../?at=${part.at}`} relative="path" className="hover:underline">
                  {part.name}
                </Link>
              </th>
              <td className="py-1.5 pr-3 text-ink-2">{part.words}</td>
              <td className="py-1.5 pr-3 text-right font-display text-lead">
                {count(part.people)}
              </td>
              {part.within.map((n, j) => (
                <td key={j} className="py-1.5 pr-3 text-right font-display text-lead">
                  {count(n)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
