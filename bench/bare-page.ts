/** The floors of the composer's figures: an editor with nothing around it, and HTML put into two frames. */

import { doc } from "#core/text/index.ts";
import { createTextEditor } from "../app/compose/text/editor.ts";
import { putEmail } from "../app/ui/email-frame.tsx";

const place = document.querySelector<HTMLElement>("#editor");
if (place) {
  createTextEditor(place, {
    kind: "doc",
    text: doc("Write here."),
    tagWords: () => "",
    onSteps: () => {},
  });
}

/** How long it takes to put an email into both frames, to layout done, ms. */
function putBoth(html: string): number {
  const frames = [...document.querySelectorAll("iframe")];
  const begin = performance.now();
  for (const frame of frames) putEmail(frame.contentDocument!, html);
  for (const frame of frames) void frame.contentDocument!.body.offsetHeight;
  return performance.now() - begin;
}
Object.assign(window, { putBoth });
