/** The floors of the composer's figures: an editor in one of two frames, and HTML put into both. */

import { doc } from "#core/text/index.ts";
import { createTextEditor } from "../app/compose/text/editor.ts";
import { putEmail } from "../app/ui/email-frame.tsx";

/** An editor on the second text of the email in the first frame; the same text in the other is set at each key. */
function writeInFirst(html: string): void {
  const [own, other] = [...document.querySelectorAll("iframe")].map((f) => f.contentDocument!);
  for (const page of [own!, other!]) putEmail(page, html);
  const texts = [own!, other!].map(
    (page) => page.querySelectorAll<HTMLElement>('div[data-text="words"]')[1]!,
  );
  texts[0]!.replaceChildren();
  const { view } = createTextEditor(
    { mount: texts[0]! },
    {
      kind: "doc",
      text: doc("Write here."),
      tagWords: () => "",
      onSteps: () => {},
      onUpdate: ({ dom }) => {
        texts[1]!.innerHTML = dom.innerHTML;
      },
    },
  );
  document.querySelector("iframe")!.contentWindow!.focus();
  view.focus();
}

/** How long it takes to put an email into both frames, to layout done, ms. */
function putBoth(html: string): number {
  const frames = [...document.querySelectorAll("iframe")];
  const begin = performance.now();
  for (const frame of frames) putEmail(frame.contentDocument!, html);
  for (const frame of frames) void frame.contentDocument!.body.offsetHeight;
  return performance.now() - begin;
}
Object.assign(window, { putBoth, writeInFirst });
