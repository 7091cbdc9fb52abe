/** What came of an A/B test: each variant with its interval, how sure the best is, and what is left to be decided. */
import { useNavigation } from "react-router";
import type { Standing } from "#core/splits/best.ts";
import type { Measure } from "#core/splits/plan.ts";
import type { SplitResult } from "#server/campaigns/split-result.ts";
import { Button } from "../ui/button.tsx";
import { Form } from "../ui/form.tsx";
import { Table } from "../ui/table.tsx";
import { count, people, percent } from "../ui/words.ts";

export interface ShownSplit extends Omit<SplitResult, "decision" | "decidedAt"> {
  /** When it was decided, and by whom, in words; null where it has not been. */
  readonly decided: string | null;
  /** When it is decided by itself, in words. */
  readonly decides: string | null;
  /** Days in which what is bought counts. */
  readonly days: number;
}
type Variant = ShownSplit["variants"][number];

const TITLES: Record<Measure, string> = {
  opened: "Opened",
  clicked: "Clicked",
  ordered: "Ordered",
};
const whole = (share: number) => Math.round(share * 100);
/** A probability that is neither 0 nor 1 is never said to be. */
const chance = (p: number) =>
  p > 0.99 ? "over 99 %" : p < 0.01 ? "under 1 %" : `${Math.floor(p * 100)} %`;

function Measured({ of, decides }: { of: Standing; decides: boolean }) {
  return (
    <div className={decides ? "font-semibold" : undefined}>
      {percent(of.hits, of.readers)}
      <div className="text-small font-normal text-ink-2">
        {whole(of.low)}–{whole(of.high)} %
      </div>
    </div>
  );
}

function said({ variants, leader, sure, winner, decided, decides, by }: ShownSplit): string {
  const best = variants[leader]!;
  const is = `${best.name} is the best with ${chance(best.standings[by].best)}`;
  if (winner !== null) return `The rest gets ${variants[winner]!.name}: ${decided}.`;
  if (variants.every(({ standings }) => standings[by].hits === 0)) {
    return `Nobody has ${by} yet.${decides ? ` It is decided ${decides}.` : ""}`;
  }
  const now = sure ? `${is}.` : `Too close to call: ${is}.`;
  return decides ? `${now} It is decided ${decides}.` : now;
}

/** What the email brought, against those who got none. */
function Control({
  control: c,
  days,
}: {
  control: NonNullable<ShownSplit["control"]>;
  days: number;
}) {
  const [low, high] = [Math.round(c.low * 1000) / 10, Math.round(c.high * 1000) / 10];
  const shows = c.low > 0 || c.high < 0;
  return (
    <p>
      Within {days} days {percent(c.sent.hits, c.sent.readers)} of those who got it bought
      something, and {percent(c.control.hits, c.control.readers)} of the {people(c.control.readers)}{" "}
      in the control group.{" "}
      <strong>
        {shows
          ? `The email itself brought ${(c.seen * 100).toFixed(1)} points (${low} to ${high}).`
          : `What the email itself brought does not show (${low} to ${high} points).`}
      </strong>
    </p>
  );
}

export function SplitResultSection({
  split,
  problem,
}: {
  split: ShownSplit;
  problem: string | null;
}) {
  const busy = useNavigation().state !== "idle";
  const { variants, by, winner, leader } = split;
  const measured = (measure: Measure) => ({
    title: measure === by ? `${TITLES[measure]}, decides` : TITLES[measure],
    right: true,
    cell: (row: Variant) => <Measured of={row.standings[measure]} decides={measure === by} />,
  });
  return (
    <section aria-label="A/B test" className="mb-8 flex flex-col gap-3">
      <h2 className="text-head">A/B test</h2>
      {variants.length > 0 && (
        <>
          <p role="status">{said(split)}</p>
          <Table
            label="Variants"
            rows={variants}
            keyOf={({ name }) => name}
            columns={[
              {
                title: "Variant",
                cell: (row) => (
                  <div className="flex gap-3">
                    <span className="font-display text-title text-plum">{row.name}</span>
                    <span>
                      <span className="block font-semibold">{row.subject}</span>
                      {row.also.length > 0 && (
                        <span className="text-small text-ink-2">with {row.also.join(", ")}</span>
                      )}
                    </span>
                  </div>
                ),
              },
              {
                title: "Delivered",
                right: true,
                cell: (row) => count(row.standings.opened.readers),
              },
              measured("opened"),
              measured("clicked"),
              measured("ordered"),
              {
                title: "Best with",
                right: true,
                cell: (row) => chance(row.standings[by].best),
              },
            ]}
          />
          <p className="text-small text-ink-2">
            Under each share stands where it lies with 95 % among all readers (Wilson). “Best” is
            the probability that a variant’s share is the largest.
          </p>
          {winner === null && (
            <Form method="post" className="flex flex-wrap gap-2.5">
              {variants.map(({ name }, i) => (
                <Button
                  key={name}
                  type="submit"
                  name="choose"
                  value={i}
                  primary={i === leader}
                  disabled={busy}
                >
                  Send {name} to the rest
                </Button>
              ))}
            </Form>
          )}
          {problem && (
            <p role="alert" className="font-semibold text-rust">
              {problem}
            </p>
          )}
        </>
      )}
      {split.control && <Control control={split.control} days={split.days} />}
    </section>
  );
}
