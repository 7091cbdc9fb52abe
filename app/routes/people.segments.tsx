import { Plus } from "lucide-react";
import { type ReactNode, useMemo } from "react";
import { Link } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { describe, KEPT_SEGMENTS, type Rule } from "#core/rules/index.ts";
import { worldOf } from "#server/audience/world.ts";
import {
  countSegments,
  getSegmentsOf,
  ruleOfSource,
  searchSegments,
} from "#server/store/audience.ts";
import { countRules, overlapOf } from "#server/store/reach.ts";
import { countMailable } from "#server/store/readers.ts";
import { OverlapTable } from "../people/overlap-table.tsx";
import { at, late, paged, searchIn } from "../request.ts";
import { Buttonlike } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { Later } from "../ui/later.tsx";
import { Empty, Page, Pager, PageTitle } from "../ui/page.tsx";
import { usePut } from "../ui/put.ts";
import { SearchForm } from "../ui/search.tsx";
import { count, percent } from "../ui/words.ts";
import type { Route } from "./+types/people.segments.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Segments · Septima" }];

const PER_PAGE = LIMITS.sourcesPerPage;
const asRule = ({ id }: { readonly id: string }): Rule => ruleOfSource({ kind: "segment", id });

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, services } = at(context);
  const url = new URL(request.url);
  const search = searchIn(url);
  const found = await countSegments(sql, search);
  const { page, pages, from } = paged(url, found, PER_PAGE);
  const shown = await searchSegments(sql, { search, from, limit: PER_PAGE });
  const listed = [...shown, ...KEPT_SEGMENTS];
  // Compared are those that were picked, else the first ones: every two of thousands would be millions.
  const asked = url.searchParams.get("compare")?.split(",") ?? null;
  const picked = asked && [...(await getSegmentsOf(sql, asked)), ...KEPT_SEGMENTS];
  const compared = (
    asked ? asked.flatMap((id) => picked!.find((one) => one.id === id) ?? []) : listed
  ).slice(0, LIMITS.overlapAtOnce);
  const world = await worldOf(sql, services.clock, [...listed, ...compared].map(asRule));
  return {
    own: shown.length,
    total: search ? await countSegments(sql) : found,
    search,
    page,
    pages,
    compared: compared.map(({ id, name }) => ({ id, name })),
    segments: listed.map(({ id, name, rule }) => ({ id, name, words: describe(rule, world) })),
    // The page does not wait for what has to be counted.
    counts: late(context, () => countRules(sql, listed.map(asRule), world)),
    mailable: late(context, () => countMailable(sql)),
    overlap: late(context, async () => (await overlapOf(sql, compared.map(asRule), world)).shared),
  };
}

type Row = Route.ComponentProps["loaderData"]["segments"][number];

/** How many people a segment holds, where that is known. */
function Held({ all, mailable, of }: { all: number; mailable: number; of: number }) {
  const held = all - mailable;
  return (
    <>
      {/* Who is found by being suppressed is counted all the same. */}
      <div className="font-display text-title leading-tight">{count(mailable || held)}</div>
      {mailable > 0 && <div className="text-small text-ink-3">{percent(mailable, of)}</div>}
      {held > 0 && (
        <div className="text-small text-ink-3">
          {mailable > 0 ? `and ${count(held)} suppressed` : "suppressed"}
        </div>
      )}
    </>
  );
}

function SegmentRow({
  segment,
  held,
  own,
  compared,
  onCompare,
}: {
  segment: Row;
  held: ReactNode;
  own: boolean;
  compared: boolean;
  onCompare: (on: boolean) => void;
}) {
  return (
    <li className="flex items-baseline gap-3 border-b py-2.5">
      <Checkbox
        aria-label={`Compare ${segment.name}`}
        title="Compare with others"
        checked={compared}
        onChange={(event) => onCompare(event.target.checked)}
      />
      <div className="min-w-0 flex-1">
        <Link
          to={own ? `/people/segments/${segment.id}` : `/people?segment=${segment.id}`}
          className="text-body font-semibold hover:underline"
        >
          {segment.name}
        </Link>
        <p className="text-small text-ink-2">{segment.words}</p>
      </div>
      <div className="flex-none text-right">{held}</div>
    </li>
  );
}

export default function Segments({ loaderData }: Route.ComponentProps) {
  const { segments, own, total, search, page, pages, counts, mailable, compared, overlap } =
    loaderData;
  const all = useMemo(() => Promise.all([counts, mailable]), [counts, mailable]);
  const put = usePut();
  const ids = compared.map(({ id }) => id);
  const compare = (id: string, on: boolean) => {
    const rest = ids.filter((one) => one !== id);
    const next = on ? [...rest, id].slice(-LIMITS.overlapAtOnce) : rest;
    put("compare", next.join(","));
  };
  const row = (segment: Row, mine: boolean, i: number) => (
    <SegmentRow
      key={segment.id}
      segment={segment}
      held={<Later of={all}>{([known, of]) => known[i] && <Held {...known[i]} of={of} />}</Later>}
      own={mine}
      compared={ids.includes(segment.id)}
      onCompare={(on) => compare(segment.id, on)}
    />
  );
  return (
    <Page wide>
      <PageTitle
        title="Segments"
        about="People found by a rule, counted among those who can be mailed. Always current."
      >
        {total > PER_PAGE / 4 && (
          <SearchForm label="Search segments" hint="Search by name" search={search} />
        )}
        <Buttonlike asChild primary>
          <Link to="/people/segments/new">
            <Plus className="size-4" /> New segment
          </Link>
        </Buttonlike>
      </PageTitle>
      <div className="grid grid-cols-2 gap-14 max-md:grid-cols-1">
        <section aria-label="Your segments">
          <h2 className="mb-1 text-head">Yours</h2>
          {own === 0 && (
            <Empty title={total > 0 ? "No matches" : "No segments yet"}>
              {total > 0 ? "Try fewer letters." : "A segment finds people by a rule you can read."}
            </Empty>
          )}
          <ul>{segments.slice(0, own).map((segment, i) => row(segment, true, i))}</ul>
          <Pager
            page={page}
            pages={pages}
            hrefOf={(to) => `?${new URLSearchParams({ search, page: String(to) })}`}
          />
        </section>
        <section aria-label="Kept by Septima">
          <h2 className="mb-1 text-head">Kept by Septima</h2>
          <ul>{segments.slice(own).map((segment, i) => row(segment, false, own + i))}</ul>
        </section>
      </div>
      <section aria-label="Overlap" className="mt-8">
        <h2 className="mb-1 text-head">Who is in two of them</h2>
        <p className="mb-3 text-small text-ink-2">
          {compared.length < 2
            ? "Mark at least two segments to compare them."
            : "How many people of the segment on the left are in the one above, too. Marked segments are compared, at most six."}
        </p>
        {compared.length >= 2 && (
          <Later of={overlap} until="Counting…">
            {(shared) => <OverlapTable names={compared.map(({ name }) => name)} counts={shared} />}
          </Later>
        )}
      </section>
    </Page>
  );
}
