import { Plus } from "lucide-react";
import { Link } from "react-router";
import { describe, KEPT_SEGMENTS } from "#core/rules/index.ts";
import { worldOf } from "#server/audience/world.ts";
import { countMailable, getSegments } from "#server/store/audience.ts";
import { overlapOf } from "#server/store/reach.ts";
import { OverlapTable } from "../people/overlap-table.tsx";
import { at } from "../request.ts";
import { Buttonlike } from "../ui/button.tsx";
import { Empty, Page, PageTitle } from "../ui/page.tsx";
import { count, percent } from "../ui/words.ts";
import type { Route } from "./+types/people.segments.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Segments · Septima" }];

export async function loader({ context }: Route.LoaderArgs) {
  const { sql, services } = at(context);
  const world = await worldOf(sql, services.clock);
  const own = await getSegments(sql);
  const all = [...own, ...KEPT_SEGMENTS];
  const rules = all.map(({ id }) => ({ type: "segment" as const, segment: id, is: true }));
  const overlap = await overlapOf(sql, rules, world);
  return {
    own: own.length,
    mailable: await countMailable(sql),
    overlap: overlap.shared,
    segments: all.map(({ id, name, rule }, i) => ({
      id,
      name,
      words: describe(rule, world),
      reach: overlap.shared[i]![i]!,
      held: overlap.all[i]! - overlap.shared[i]![i]!,
    })),
  };
}

type Row = Route.ComponentProps["loaderData"]["segments"][number];

function SegmentRow({ segment, mailable, own }: { segment: Row; mailable: number; own: boolean }) {
  return (
    <li className="flex items-baseline justify-between gap-6 border-b py-2.5">
      <div className="min-w-0">
        <Link
          to={own ? `/people/segments/${segment.id}` : `/people?segment=${segment.id}`}
          className="text-[14px] font-semibold hover:underline"
        >
          {segment.name}
        </Link>
        <p className="text-[12px] text-ink-2">{segment.words}</p>
      </div>
      <div className="flex-none text-right">
        <div className="font-display text-[19px] leading-tight">{count(segment.reach)}</div>
        <div className="text-[11.5px] text-ink-3">{percent(segment.reach, mailable)}</div>
        {segment.held > 0 && (
          <div className="text-[11.5px] text-ink-3">and {count(segment.held)} held back</div>
        )}
      </div>
    </li>
  );
}

export default function Segments({ loaderData }: Route.ComponentProps) {
  const { segments, own, mailable, overlap } = loaderData;
  return (
    <Page wide>
      <PageTitle
        title="Segments"
        about="People found by a rule, counted among those who can be mailed. Always current."
      >
        <Buttonlike asChild primary>
          <Link to="/people/segments/new">
            <Plus className="size-4" /> New segment
          </Link>
        </Buttonlike>
      </PageTitle>
      <div className="grid grid-cols-2 gap-14">
        <section aria-label="Your segments">
          <h2 className="mb-1 text-[20px]">Yours</h2>
          {own === 0 && (
            <Empty title="No segments yet">A segment finds people by a rule you can read.</Empty>
          )}
          <ul>
            {segments.slice(0, own).map((segment) => (
              <SegmentRow key={segment.id} segment={segment} mailable={mailable} own />
            ))}
          </ul>
        </section>
        <section aria-label="Kept by Septima">
          <h2 className="mb-1 text-[20px]">Kept by itself</h2>
          <ul>
            {segments.slice(own).map((segment) => (
              <SegmentRow key={segment.id} segment={segment} mailable={mailable} own={false} />
            ))}
          </ul>
        </section>
      </div>
      <section aria-label="Overlap" className="mt-8">
        <h2 className="mb-1 text-[20px]">Who is in two of them</h2>
        <p className="mb-3 text-[12.5px] text-ink-2">
          How many people of the segment on the left are in the one above, too.
        </p>
        <OverlapTable names={segments.map(({ name }) => name)} counts={overlap} />
      </section>
    </Page>
  );
}
