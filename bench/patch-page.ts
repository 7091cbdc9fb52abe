/** The page in which patching is measured: two sheets, as in the composer. */
import { apply, type EmailDocument } from "#core/document/index.ts";
import { mergeText, prepare, unsigned } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { phrase } from "#core/text/index.ts";
import { SheetView } from "../app/compose/sheets/view.ts";
import { putEmail } from "../app/ui/email-frame.tsx";
import { newsletter, readers, SURROUNDINGS } from "./newsletter.ts";

const ROUNDS = 60;
const HEADING = "b1";

function measure() {
  const views = [...document.querySelectorAll("iframe")].map((frame) => new SheetView(frame));
  const reader = readers(1)[0]!;
  let doc: EmailDocument = newsletter(60, 12);
  const lang = String(doc.root.props.lang);
  const same = { lang, surroundings: SURROUNDINGS, reader, everything: false };
  for (const view of views) view.show({ ...same, doc });
  const layout = () => {
    for (const view of views) void view.document.body.offsetHeight;
  };
  layout();

  const replaced: number[] = [];
  const patch = (round: number) => {
    doc = apply(doc, {
      type: "set",
      node: HEADING,
      path: ["words"],
      value: phrase(`Changed ${round} times`) as never,
    });
    for (const view of views) replaced.push(view.show({ ...same, doc }).put);
    layout();
  };
  const html = () =>
    mergeText(
      prepare(compile(doc, SURROUNDINGS), { links: "direct", marks: true, sign: unsigned }).html,
      reader,
    );
  const full = (text: string) => {
    for (const view of views) putEmail(view.document, text);
    layout();
  };

  const time = (work: () => void) => {
    const start = performance.now();
    work();
    return performance.now() - start;
  };
  let patches = 0;
  let fulls = 0;
  for (let round = 0; round < ROUNDS; round++) {
    patches += time(() => patch(round));
    const text = html();
    fulls += time(() => full(text));
  }
  return { ratio: patches / fulls, replaced };
}
Object.assign(window, { measure });
