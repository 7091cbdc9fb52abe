/** An A/B test as it is planned: variants of an email, whom they are tried on, and what decides. */
import { z } from "zod";
import type { EmailProps } from "../blocks/layout.ts";
import type { EmailDocument } from "../document/index.ts";
import { LIMITS } from "../limits.ts";
import { lineSchema } from "../text/index.ts";

/** What counts as success. */
export const MEASURES = ["opened", "clicked", "ordered"] as const;
export type Measure = (typeof MEASURES)[number];

/** A variant but the first, which is the email as it is written. What is null is as in the first. */
export const variantSchema = z.strictObject({
  subject: lineSchema.nullable(),
  preview: lineSchema.nullable(),
  fromName: lineSchema.nullable(),
  /** The campaign whose email is its content. */
  content: z.string().max(LIMITS.nameLength).nullable(),
});
export type Variant = z.infer<typeof variantSchema>;

export const splitPlanSchema = z.strictObject({
  /** The others: the second to the fifth. */
  variants: z.array(variantSchema).max(LIMITS.variants - 1),
  /** Per cent of the readers that variants are tried on, all of them together. */
  share: z.number().int().min(1).max(LIMITS.splitShare),
  by: z.enum(MEASURES),
  /** How long after the last of them has left it is decided; null: a person decides. */
  hours: z.number().int().min(1).max(LIMITS.splitHours).nullable(),
  /** Where it is too close to call then: a person is waited for, or the leader goes to the rest. */
  otherwise: z.enum(["wait", "leader"]),
  /** Per cent of the readers who get nothing. */
  control: z.number().int().min(0).max(LIMITS.splitControl),
});
export type SplitPlan = z.infer<typeof splitPlanSchema>;

export const NO_SPLIT: SplitPlan = {
  variants: [],
  share: 20,
  by: "opened",
  hours: 4,
  otherwise: "wait",
  control: 0,
};

/** Whether a plan changes anything about who gets what. */
export const isSplit = ({ variants, control }: SplitPlan): boolean =>
  variants.length > 0 || control > 0;

/** What a variant is called: A, B … */
export const variantName = (variant: number): string => String.fromCharCode(65 + variant);

/** The email of a variant: what it says otherwise, in that of the campaign or in its own content. */
export function emailOfVariant(
  main: EmailDocument,
  { subject, preview, fromName }: Variant,
  content: EmailDocument | null,
): EmailDocument {
  const email = content ?? main;
  const props = email.root.props as unknown as EmailProps;
  const { envelope: written } = main.root.props as unknown as EmailProps;
  const envelope = {
    ...props.envelope,
    // Variants come from one sender: answers and bounces go one way.
    fromAddress: written.fromAddress,
    replyTo: written.replyTo,
    ...(subject && { subject }),
    ...(preview && { preview }),
    ...(fromName && { fromName }),
  };
  return { ...email, root: { ...email.root, props: { ...props, envelope } as never } };
}
