/** What came of the A/B test of a launch, and what its email brought. */
import type { EmailProps } from "#core/blocks/layout.ts";
import {
  differenceInterval,
  type Interval,
  MEASURES,
  type Measure,
  type Standing,
  standingsOf,
  type Tried,
  variantName,
  verdictOn,
} from "#core/splits/index.ts";
import { wordsOf } from "#core/text/index.ts";
import type { Sql } from "../db/database.ts";
import type { Launch } from "../store/launches/freeze.ts";
import {
  boughtAfter,
  cameOfVariants,
  type Decision,
  decisionOf,
  testedBy,
} from "../store/launches/split.ts";
import { eachVariant } from "../store/launches/variants.ts";

export interface VariantResult {
  readonly name: string;
  readonly subject: string;
  /** What else it says otherwise than the first. */
  readonly also: readonly string[];
  readonly standings: Readonly<Record<Measure, Standing>>;
}

export interface SplitResult {
  readonly by: Measure;
  /** None where everybody got the same. */
  readonly variants: readonly VariantResult[];
  readonly leader: number;
  readonly sure: boolean;
  /** What goes to the rest; null while nobody has said. */
  readonly winner: number | null;
  readonly decision: Decision | null;
  /** When it is decided by itself; null where a person decides, or it has been. */
  readonly decidedAt: Date | null;
  /** The control group against those who got it; null where there is none. */
  readonly control:
    | (Interval & { readonly seen: number; readonly sent: Tried; readonly control: Tried })
    | null;
}

/** Of a launch that has begun; `days` are those in which what is bought counts. */
export async function splitResultOf(
  sql: Sql,
  launch: Launch,
  days: number,
): Promise<SplitResult | null> {
  const { split, winner } = launch;
  if (!split) return null;
  const all = eachVariant(launch);
  const tested = all.length > 1;
  const came = await cameOfVariants(sql, launch.id, all.length);
  const standings = Object.fromEntries(
    MEASURES.map((one) => [one, standingsOf(came[one])]),
  ) as Record<Measure, Standing[]>;
  const envelopes = all.map(({ doc }) => (doc.root.props as unknown as EmailProps).envelope);
  const [first] = envelopes;
  const variants = all.map(({ doc }, i): VariantResult => {
    const own = envelopes[i]!;
    const differs = (part: "preview" | "fromName") => wordsOf(own[part]) !== wordsOf(first![part]);
    return {
      name: variantName(i),
      subject: wordsOf(own.subject),
      also: [
        ...(differs("preview") ? [`preview text “${wordsOf(own.preview)}”`] : []),
        ...(differs("fromName") ? [`from ${wordsOf(own.fromName)}`] : []),
        ...(doc.root.children !== all[0]!.doc.root.children && split.variants[i - 1]?.content
          ? ["an email of its own"]
          : []),
      ],
      standings: {
        opened: standings.opened[i]!,
        clicked: standings.clicked[i]!,
        ordered: standings.ordered[i]!,
      },
    };
  });
  const last = winner === null && split.hours !== null ? await testedBy(sql, launch.id) : null;
  const bought = split.control > 0 ? await boughtAfter(sql, launch.id, days) : null;
  return {
    by: split.by,
    variants: tested ? variants : [],
    ...verdictOn(standings[split.by]),
    winner,
    decision: await decisionOf(sql, launch.id),
    decidedAt: last && new Date(last.getTime() + split.hours! * 3_600_000),
    control: bought && { ...bought, ...differenceInterval(bought.sent, bought.control) },
  };
}
