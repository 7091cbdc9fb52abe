/**
 * A sheet: a frame that holds the email as it will be sent. The first time the whole HTML is written
 * into it; afterwards only the elements of changed nodes are replaced.
 */
import { lateIn } from "#core/blocks/index.ts";
import {
  type DocNode,
  type EmailDocument,
  find,
  outerBlockOf,
  pathTo,
} from "#core/document/index.ts";
import { mergeText, prepareBody } from "#core/merge/index.ts";
import { compileNode, conditionsIn, conditionsOf, groundOf } from "#core/render/index.ts";
import { putEmail } from "../../ui/email-frame.tsx";
import { bandsSeen, type Change, diff, pictured } from "./diff.ts";
import { type Resting, rest } from "./resting.ts";
import { isServed, OPTIONS, type SheetContent, writtenOf } from "./written.ts";

/** Rectangle in CSS pixels of the frame. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** What came of showing a content. */
export interface Shown {
  /** How many elements were put in; -1 where the whole email was written. */
  readonly put: number;
  /** Whether anything may stand elsewhere by that. */
  readonly moved: boolean;
}
const NOTHING: Shown = { put: 0, moved: false };

/** Which of an email's conditions hold for its reader, by rule. */
const held = ({ doc, surroundings, reader }: SheetContent): Map<string, string> =>
  new Map(conditionsOf(doc, surroundings.derived).map((key, i) => [key, reader.bits?.[i] ?? "0"]));

/** Also of another page, where `instanceof` knows nothing. */
const isElement = (node: Node): node is Element => node.nodeType === 1;

/** Brings an element to what another is, by changing the least: what stays is not laid out again. */
function bringTo(old: Element, made: Element): void {
  const [own, wanted] = [[...old.childNodes], [...made.childNodes]];
  if (own.length !== wanted.length || !old.cloneNode().isEqualNode(made.cloneNode())) {
    old.replaceWith(made);
    return;
  }
  for (const [i, child] of own.entries()) {
    const next = wanted[i]!;
    if (child.isEqualNode(next)) continue;
    if (isElement(child) && isElement(next)) bringTo(child, next);
    else child.replaceWith(next);
  }
}

/** The band a node is, or stands in; null for the email itself. */
const bandOf = (doc: EmailDocument, id: string): string | null => pathTo(doc, id)[1]?.id ?? null;

export class SheetView {
  private shown: SheetContent | null = null;
  /** Something could not be made again while its text was under the hands. */
  private stale = false;
  /** The node that is being written in: its element is left alone. */
  writing: string | null = null;
  private resting: Resting | null = null;

  /** `served`: what the frame's page came with, where it did. */
  constructor(
    readonly frame: HTMLIFrameElement,
    served: SheetContent | null = null,
  ) {
    if (!served || !isServed(this.document)) return;
    this.document.body.removeAttribute("inert");
    this.shown = served;
  }

  get document(): Document {
    return this.frame.contentDocument!;
  }

  /** Shows the content and gives what came of it. */
  show(content: SheetContent): Shown {
    const before = this.shown;
    if (before === content) return NOTHING;
    const changes = before && !this.stale ? this.changes(before, content) : null;
    // The text under the hands must not be taken away: the whole is written anew when writing has ended.
    if (!changes && before && this.writing !== null) return NOTHING;
    this.shown = content;
    // What changes elsewhere may be higher than it was.
    if (!changes?.every(({ id }) => bandOf(content.doc, id) === this.resting?.band)) this.wake();
    if (!changes) {
      this.write(content);
      return { put: -1, moved: true };
    }
    // A block by itself that stays as large as it was moves nothing.
    const [only] = changes;
    const alone = changes.length === 1 && find(content.doc, only!.id)?.node.children.length === 0;
    const box = alone ? this.boxOf(only!.id) : null;
    const put = changes.reduce((sum, change) => sum + this.bring(change, content), 0);
    const now = box && put > 0 ? this.boxOf(only!.id) : null;
    const same = now !== null && now.width === box?.width && now.height === box.height;
    return { put, moved: put > 0 && !same };
  }

  /** Brings what a change is about to what it is now; gives how many elements were put in. */
  private bring({ id, ...change }: Change, { doc }: SheetContent): number {
    if (change.kind !== "replace") return this.arrange(id, change.order);
    if (this.holdsWriting(id)) {
      // A block is made again when writing in it ends; a band waits for the whole.
      if (!outerBlockOf(doc, id)) this.stale = true;
      return 0;
    }
    const old = this.element(id);
    const made = this.make(id);
    if (!old || !made) return 0;
    bringTo(old, made);
    return 1;
  }

  /** What changed between two contents, or null where the whole has to be written. */
  private changes(before: SheetContent, content: SheetContent): Change[] | null {
    const same =
      before.lang === content.lang &&
      before.everything === content.everything &&
      before.reader.values === content.reader.values;
    if (!same) return null;
    const { derived } = content.surroundings;
    const changes = diff(before.doc, content.doc);
    const came = pictured(content.doc, before.surroundings, content.surroundings);
    const seen =
      before.reader === content.reader
        ? []
        : bandsSeen(
            content.doc,
            (band) => conditionsIn(band, derived),
            held(before),
            held(content),
          );
    if (!changes || !came || !seen) return null;
    const made = new Map([...came, ...seen].map((change) => [change.id, change]));
    return [...changes.filter(({ id }) => !made.has(id)), ...made.values()];
  }

  /** Whether a node is, or holds, what is being written in. */
  private holdsWriting(id: string): boolean {
    if (this.writing === null) return false;
    const inner = this.element(this.writing);
    return inner !== null && Boolean(this.element(id)?.contains(inner));
  }

  /** Somebody begins to write in a node, here or on another sheet: see `resting.ts`. */
  rest(node: string): void {
    this.wake();
    const { doc } = this.shown!;
    const band = bandOf(doc, node);
    if (!band) return;
    const heights = new Map(
      doc.root.children.flatMap(({ id }) => {
        const box = this.boxOf(id);
        return box && box.height > 0 ? [[id, box.height] as const] : [];
      }),
    );
    this.resting = rest(this.document, band, heights);
  }

  wake(): void {
    this.resting?.end();
    this.resting = null;
  }

  /** Makes a node's element again although nothing changed (after writing in it). */
  refresh(id: string): void {
    const made = this.make(id);
    if (made) this.element(id)?.replaceWith(made);
  }

  private write(content: SheetContent): void {
    this.stale = false;
    putEmail(this.document, writtenOf(content).html);
    this.drawLate(content.doc.root);
  }

  /** Blocks whose means of being drawn are still on their way are made again when those have come. */
  private drawLate(within: DocNode): void {
    for (const { node, late } of lateIn(within)) {
      const draw = () => {
        const { doc } = this.shown!;
        const block = outerBlockOf(doc, node.id)?.id;
        if (!block || !this.document) return;
        if (this.holdsWriting(block)) this.stale = true;
        else this.refresh(block);
      };
      // Where they cannot be had, the place stays empty; the next such block asks again.
      late.load().then(draw, () => {});
    }
  }

  private make(id: string): Element | null {
    const { doc, lang, surroundings, reader, everything } = this.shown!;
    const markup = compileNode(doc, id, surroundings, lang);
    if (!markup) return null;
    this.drawLate(find(doc, id)!.node);
    // Links lead nowhere on a sheet, so their numbers do not matter.
    const email = { ...groundOf(doc, surroundings, lang), links: [] };
    const body = prepareBody(markup.segments, email, { ...OPTIONS, everything });
    const template = this.document.createElement("template");
    template.innerHTML = mergeText(body, reader);
    return template.content.firstElementChild;
  }

  /** Brings the children of the email or of a column into order, making only those that are new. */
  private arrange(parentId: string, order: readonly string[]): number {
    const parent = this.element(parentId);
    // The column of a plain band is the body of the band's table.
    const holder = parent?.matches("[role=article], tbody")
      ? parent
      : parent?.querySelector(":scope > table > tbody, :scope > tbody");
    if (!holder) return 0;
    const wanted = new Set(order);
    let made = 0;
    for (const child of [...holder.children]) {
      const id = child.getAttribute("data-node");
      if (id && !wanted.has(id)) child.remove();
    }
    let before: Element | null = null;
    for (const id of order) {
      let child: Element | null = this.element(id);
      if (!child || child.parentElement !== holder) {
        child?.remove();
        child = this.make(id);
        made++;
      }
      if (!child) continue;
      const next: Element | null = before ? before.nextElementSibling : holder.firstElementChild;
      if (next !== child) holder.insertBefore(child, next);
      before = child;
    }
    return made;
  }

  element(id: string): HTMLElement | null {
    return this.document.querySelector<HTMLElement>(`[data-node="${id}"]`);
  }

  /** Where a node stands in the frame. */
  boxOf(id: string): Box | null {
    const rect = this.element(id)?.getBoundingClientRect();
    return rect ? { x: rect.x, y: rect.y, width: rect.width, height: rect.height } : null;
  }

  /** The heights at which the bands begin, with the beginning and the end of the email; a hidden band begins where the one before does. */
  bandTops(): number[] {
    const tops = [0];
    for (const band of this.shown?.doc.root.children ?? []) {
      const box = this.boxOf(band.id);
      tops.push(box && box.height > 0 ? box.y : tops.at(-1)!);
    }
    return [...tops, this.height];
  }

  /** The innermost node at an element. */
  static nodeAt(target: EventTarget | null): string | null {
    const element = target as Element | null;
    return element?.closest?.("[data-node]")?.getAttribute("data-node") ?? null;
  }

  get height(): number {
    return Math.ceil(this.document.body?.getBoundingClientRect().height ?? 0);
  }
}
