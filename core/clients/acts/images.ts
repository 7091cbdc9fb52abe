/** Images that are not shown. */
import type { Act } from "../family.ts";
import { elementsOf, named, redeclare, restyle } from "../page.ts";

/** An address with nothing behind it: a browser draws a box with the alt text. */
const NOTHING = "data:,";
const pixels = (value: string | undefined) => (/^\d+$/.test(value ?? "") ? `${value}px` : null);

/** Images are boxes of their size with their alt text; `which`: those whose address fits. */
export const hidesImages = (loses: string, which = /(?:)/): Act => ({
  loses,
  tries: [
    {
      html: `<img src="a.webp" width="50" height="20" alt="A" style="display:block;height:auto">`,
      gives: `<img src="${NOTHING}" width="50" height="20" alt="A" style="display:block;${EDGE};height:20px">`,
    },
  ],
  on(page) {
    const found = named(page, "img").filter(({ attribs }) => which.test(attribs.src ?? ""));
    for (const one of found) {
      const { attribs } = one;
      const height = pixels(attribs.height);
      attribs.src = NOTHING;
      if (height) restyle(one, ([property, value]) => (property === "height" ? null : value));
      attribs.style = [attribs.style, EDGE, height && `height:${height}`].filter(Boolean).join(";");
    }
    return found.length;
  },
});
const EDGE = "outline:1px solid #a8a29a;outline-offset:-1px";

/** Pictures behind words, which are another thing than images. */
export const hidesBackgrounds: Act = {
  loses: "pictures behind words",
  tries: [
    {
      html: `<td background="a.png" style="background-color:#eeeeee;background-image:url('a.png')">x</td>`,
      gives: `<td style="background-color:#eeeeee">x</td>`,
    },
  ],
  on(page) {
    let places = 0;
    const gone = ([property, value]: readonly [string, string]) =>
      /^background(-image)?$/.test(property) && /url\(/i.test(value) ? null : value;
    for (const one of elementsOf(page)) {
      const changed = restyle(one, gone);
      if (changed || one.attribs.background) places++;
      delete one.attribs.background;
    }
    return places + redeclare(page, gone);
  },
};
