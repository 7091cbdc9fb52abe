/** An A/B test as it is planned: what is tried, on whom, and what decides. */
import { Plus } from "lucide-react";
import { lazy, Suspense } from "react";
import { LIMITS } from "#core/limits.ts";
import { sizesOf } from "#core/splits/draw.ts";
import { readersNeeded, smallestRise } from "#core/splits/intervals.ts";
import type { SplitPlan } from "#core/splits/plan.ts";
import { Button } from "../ui/button.tsx";
import { Field } from "../ui/field.tsx";
import { NumberInput } from "../ui/number-input.tsx";
import { Select } from "../ui/select.tsx";
import { counted, readers as readersWords } from "../ui/words.ts";
import type { SplitData, SplitState } from "./use-split.ts";

const VariantRow = lazy(() => import("./variant-row.tsx"));

/** What counts, as it is chosen and as it is said of a share. */
const MEASURES = [
  { value: "opened", label: "opens" },
  { value: "clicked", label: "clicks" },
  { value: "ordered", label: "orders" },
] as const;

/** Percentage points, as few as say it. */
const points = (share: number) =>
  (share * 100).toLocaleString("en-GB", { maximumFractionDigits: share < 0.02 ? 1 : 0 });

/** What can be seen with so many readers, from what is usual here. */
function Sample({
  plan: { by },
  each,
  usual,
}: {
  plan: SplitPlan;
  each: number;
  usual: SplitData["usual"];
}) {
  const from = usual?.[by] ?? 0;
  if (!usual || from === 0) {
    return "How large a difference shows cannot be said before something has been sent.";
  }
  const rise = smallestRise(from, each);
  const usually = `Usually ${points(from)} % ${by}.`;
  if (rise === null) return `${usually} With so few readers no difference will show.`;
  const half = rise / 2;
  return (
    <>
      <strong className="font-semibold text-ink">
        A difference under {points(rise)} points will not show.
      </strong>{" "}
      For {points(half)} {points(half) === "1" ? "point" : "points"}:{" "}
      {counted(readersNeeded(from, Math.min(1, from + half)), "reader")} each. {usually}
    </>
  );
}

/** Whom it is tried on, and what decides. */
function Rules({ split: { plan, change } }: { split: SplitState }) {
  const whole = (to: (n: number) => Partial<SplitPlan>) => (n: number | null) =>
    n !== null && Number.isInteger(n) && n > 0 && change(to(n));
  return (
    <div className="grid grid-cols-4 items-start gap-3 max-md:grid-cols-2">
      <Field label="Test group, % of readers">
        {(ids) => (
          <NumberInput
            {...ids}
            className="w-full"
            value={plan.share}
            min={1}
            max={LIMITS.splitShare}
            onValue={whole((share) => ({ share: Math.min(share, LIMITS.splitShare) }))}
          />
        )}
      </Field>
      <Field label="Decided by">
        {(ids) => (
          <Select
            {...ids}
            className="w-full"
            value={plan.by}
            options={MEASURES}
            onValue={(by) => by && change({ by })}
          />
        )}
      </Field>
      <Field label="Decided">
        {(ids) => (
          <Select
            {...ids}
            className="w-full"
            value={plan.hours === null ? "person" : "hours"}
            options={[
              { value: "hours", label: "after hours" },
              { value: "person", label: "by a person" },
            ]}
            onValue={(how) => change({ hours: how === "person" ? null : 4 })}
          />
        )}
      </Field>
      {plan.hours !== null && (
        <Field label="Hours after the last was sent">
          {(ids) => (
            <NumberInput
              {...ids}
              className="w-full"
              value={plan.hours}
              min={1}
              max={LIMITS.splitHours}
              onValue={whole((hours) => ({ hours: Math.min(hours, LIMITS.splitHours) }))}
            />
          )}
        </Field>
      )}
      {plan.hours !== null && (
        <Field label="Where it is too close to call" className="col-span-2">
          {(ids) => (
            <Select
              {...ids}
              className="w-full"
              value={plan.otherwise}
              options={[
                { value: "wait", label: "wait for a person" },
                { value: "leader", label: "send the one that leads" },
              ]}
              onValue={(otherwise) => otherwise && change({ otherwise })}
            />
          )}
        </Field>
      )}
    </div>
  );
}

export function SplitSection({
  split,
  data,
  readers,
}: {
  split: SplitState;
  data: SplitData;
  /** null while they are counted. */
  readers: number | null;
}) {
  const { plan, keys, change, setVariants, problem } = split;
  const each = readers === null ? null : sizesOf(readers, plan).each;
  const tried = plan.variants.length > 0;
  const none = { subject: null, preview: null, fromName: null, content: null };
  return (
    <section aria-label="A/B test" className="flex flex-col gap-3 border-t pt-5">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 className="text-head">A/B test</h2>
        {tried && (
          <span className="text-small text-ink-2">
            {each === null ? "Counting the readers…" : `${readersWords(each)} for each variant`}
          </span>
        )}
      </div>
      {!tried && (
        <p className="text-ink-2">
          Try another subject, preview text, sender’s name or email on some of the readers, and send
          the better one to the rest.
        </p>
      )}
      {tried && (
        <ol className="border-t">
          <li className="grid grid-cols-[36px_1fr] border-b py-2.5">
            <span className="font-display text-title text-plum">A</span>
            <span>
              <span className="block font-semibold">{data.subject}</span>
              <span className="text-small text-ink-2">as it is written in Compose</span>
            </span>
          </li>
          <Suspense fallback={null}>
            {plan.variants.map((variant, i) => (
              <VariantRow
                key={keys[i]}
                number={i + 1}
                variant={variant}
                fields={data.fields}
                content={variant.content && (data.contents[variant.content] ?? "")}
                onChange={(to) =>
                  setVariants(
                    plan.variants.map((one, j) => (j === i ? { ...one, ...to } : one)),
                    keys,
                  )
                }
                onGive={() => split.giveContent(i + 1)}
                onTakeOut={() =>
                  setVariants(
                    plan.variants.filter((_, j) => j !== i),
                    keys.filter((_, j) => j !== i),
                  )
                }
              />
            ))}
          </Suspense>
        </ol>
      )}
      {problem && (
        <p role="alert" className="font-semibold text-rust">
          {problem}
        </p>
      )}
      {tried && <Rules split={split} />}
      {tried && each !== null && (
        <p className="text-small text-ink-2">
          <Sample plan={plan} each={each} usual={data.usual} />
        </p>
      )}
      <div className="flex flex-wrap items-end gap-4">
        {plan.variants.length < LIMITS.variants - 1 && (
          <Button onClick={() => setVariants([...plan.variants, none], [...keys, split.newKey()])}>
            <Plus className="size-4" />
            Add a variant
          </Button>
        )}
        <Field label="Control group that gets nothing, % of readers">
          {(ids) => (
            <NumberInput
              {...ids}
              value={plan.control}
              min={0}
              max={LIMITS.splitControl}
              onValue={(control) =>
                control !== null &&
                Number.isInteger(control) &&
                change({ control: Math.max(0, Math.min(control, LIMITS.splitControl)) })
              }
            />
          )}
        </Field>
      </div>
    </section>
  );
}
