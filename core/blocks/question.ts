import { z } from "zod";
import { type DocNode, type EmailDocument, find } from "../document/index.ts";
import { blockShape, pad, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import { createItem } from "../kinds/item.ts";
import type { BlockContext, BlockKind, ItemKind } from "../kinds/kind.ts";
import {
  addressText,
  hrefMarkup,
  html,
  join,
  lineMarkup,
  type Markup,
  plain,
} from "../markup/index.ts";
import { isBlank, type Line, type Link, line, lineSchema, wordsOf } from "../text/index.ts";
import { colourSchema, resolveColour } from "../theme/theme.ts";
import { flowRow } from "./flow.ts";
import { itemsOf } from "./link-item.ts";
import { PLAIN_TYPE, typeSchema, wordAttrs } from "./type-style.ts";

const LOOKS = ["words", "stars", "faces"] as const;
const schema = z.strictObject({
  ...blockShape,
  asks: lineSchema,
  /** What stands on the page that answers lead to. */
  thanks: lineSchema,
  /** That page asks for a few words, too. */
  wantsWords: z.boolean(),
  look: z.enum(LOOKS),
  colour: colourSchema,
  type: typeSchema,
});
export type Question = z.infer<typeof schema>;

const answerSchema = z.strictObject({ label: lineSchema });
type Answer = z.infer<typeof answerSchema>;

const answer: ItemKind<Answer> = {
  type: "question.answer",
  label: "Answer",
  plural: "Answers",
  least: 2,
  most: 7,
  schema: answerSchema,
  create: () => ({ label: line("An answer") }),
  texts: [{ path: ["label"], kind: "line", label: "Text" }],
  content: [{ control: "line", path: ["label"], label: "Text" }],
  style: [],
  name: (props) => wordsOf(props.label),
  checks: (props) =>
    isBlank(props.label)
      ? [
          {
            check: "empty-link",
            severity: "look",
            message: "An answer has no text",
            detail: "Write what it says; it is read aloud, too.",
          },
        ]
      : [],
};

const FACES = ["😞", "🙁", "😐", "🙂", "😀"];
/** The face of an answer among so many, from the saddest. */
const faceOf = (i: number, of: number) =>
  FACES[of === 1 ? 2 : Math.round((i * (FACES.length - 1)) / (of - 1))]!;

const toAnswer = (node: string): Link => ({ kind: "answer", node });

/** One answer: its words in a border, or a star or a face as large as a thumb (44 px, WCAG 2.5.5). */
function answerHtml(
  props: Question,
  { mark, ctx, item, node }: { mark: Markup; ctx: BlockContext; item: Answer; node: string },
  sign: string | null,
): Markup {
  const { theme } = ctx;
  const href = hrefMarkup(toAnswer(node), ctx.node, wordsOf(item.label));
  if (sign !== null) {
    const look = dress(
      theme,
      { ink: props.colour },
      {
        display: "inline-block",
        padding: "6px 7px",
        "font-size": "30px",
        "line-height": "32px",
        "text-decoration": "none",
      },
    );
    const label = html` aria-label="${lineMarkup(item.label, "attribute")}"`;
    return html`<a${mark}${href}${label}${look}><span${dress(theme, { ink: props.colour })}>${sign}</span></a>`;
  }
  const look = dress(
    theme,
    { ink: props.colour, rule: props.colour },
    {
      display: "inline-block",
      margin: "4px",
      padding: "11px 15px",
      border: `1px solid ${resolveColour(props.colour, theme)}`,
      "border-radius": `${theme.corner}px`,
      "line-height": "20px",
      "text-decoration": "none",
    },
  );
  const words = html`<span${ctx.text("label")}${dress(theme, { ink: props.colour })}>${lineMarkup(item.label, "html")}</span>`;
  return html`<a${mark}${href}${look}>${words}</a>`;
}

export const question: BlockKind<Question> = {
  type: "question",
  label: "Question",
  group: "actions",
  icon: "circle-help",
  schema,
  create: () => ({
    ...standing(pad(12, 28), "center"),
    asks: line("Was this of use to you?"),
    thanks: line("Thank you for telling us."),
    wantsWords: true,
    look: "words",
    colour: "accent",
    type: PLAIN_TYPE,
  }),
  holds: [answer],
  start: (newId) =>
    ["Not really", "Somewhat", "Very much"].map((label) =>
      createItem(answer, newId, { label: line(label) }),
    ),
  texts: [
    { path: ["asks"], kind: "line", label: "Question" },
    { path: ["thanks"], kind: "line", label: "Thanks" },
  ],
  content: [
    { control: "line", path: ["asks"], label: "Question" },
    {
      control: "choice",
      path: ["look"],
      label: "Answers as",
      options: [
        { value: "words", label: "Words" },
        { value: "stars", label: "Stars" },
        { value: "faces", label: "Faces" },
      ],
    },
    { control: "line", path: ["thanks"], label: "Thanks, on the page" },
    { control: "switch", path: ["wantsWords"], label: "Asks for a few words, too" },
  ],
  style: [
    { control: "colour", path: ["colour"], label: "Answers" },
    { control: "type", path: ["type"], label: "Type" },
  ],
  html(props, ctx) {
    const { theme } = ctx;
    const asks = html`<div${ctx.text("asks")}${wordAttrs(theme, { font: "body", size: theme.type.body, lineHeight: 1.4, colour: "ink", bold: true }, props.type)}>${lineMarkup(props.asks, "html")}</div>`;
    const items = itemsOf(ctx, answer);
    const row = items.map(({ mark, ctx: inner, props: item, node }, i) =>
      answerHtml(
        props,
        { mark, ctx: inner, item, node: node.id },
        props.look === "stars" ? "★" : props.look === "faces" ? faceOf(i, items.length) : null,
      ),
    );
    const words = wordAttrs(
      theme,
      { font: "body", size: 15, lineHeight: 20 / 15, colour: props.colour },
      PLAIN_TYPE,
    );
    const answers = html`<div${words}>${flowRow(row, { gap: 4, align: props.box.align, dir: ctx.dir })}</div>`;
    return html`${asks}${answers}`;
  },
  text(props, ctx) {
    const lines = itemsOf(ctx, answer).map(
      ({ ctx: inner, props: item, node }) =>
        plain`${lineMarkup(item.label, "text")}${addressText(toAnswer(node.id), inner.node, wordsOf(item.label), ": ")}`,
    );
    return join([lineMarkup(props.asks, "text"), ...lines], "\n");
  },
  checks: (props) =>
    isBlank(props.asks)
      ? [
          {
            check: "empty-text",
            severity: "look",
            message: "A question asks nothing",
            detail: "Write what readers are asked.",
            in: ["asks"],
          },
        ]
      : [],
};

export interface AskedQuestion {
  /** Its block. */
  readonly id: string;
  readonly asks: string;
  readonly answers: readonly { readonly id: string; readonly words: string }[];
  readonly thanks: string;
  readonly wantsWords: boolean;
}

/** A question as it is told outside of the email; tags as their fallbacks. */
function asked(block: DocNode): AskedQuestion {
  const props = block.props as unknown as Question;
  const own = block.children.filter(({ type }) => type === answer.type);
  return {
    id: block.id,
    asks: wordsOf(props.asks),
    answers: own.map(({ id, props }) => ({ id, words: wordsOf(props.label as unknown as Line) })),
    thanks: wordsOf(props.thanks),
    wantsWords: props.wantsWords,
  };
}

/** The questions an email asks, from its head to its foot. */
export function questionsIn(doc: EmailDocument): AskedQuestion[] {
  const visit = (node: DocNode): AskedQuestion[] =>
    node.type === question.type ? [asked(node)] : node.children.flatMap(visit);
  return visit(doc.root);
}

/** The question that an answer (its node) belongs to; null where there is no such answer. */
export function questionOf(doc: EmailDocument, answerNode: string): AskedQuestion | null {
  const found = find(doc, answerNode);
  return found?.parent?.type === question.type ? asked(found.parent) : null;
}
