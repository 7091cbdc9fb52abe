/** Elements and attributes that a family takes away, or takes instead of styles. */
import type { Act } from "../family.ts";
import { elementsOf, remove, restyle } from "../page.ts";

/** Elements go with all they hold. */
export const dropsElements = (loses: string, names: readonly string[]): Act => ({
  loses,
  tries: [
    {
      html: `<div>a<${names[0]}>b</${names[0]}></div>`,
      gives: "<div>a</div>",
    },
  ],
  on(page) {
    const found = elementsOf(page).filter(({ name }) => names.includes(name));
    for (const one of found) remove(one);
    return found.length;
  },
});

/** Pictures have the size of their attributes; what a style says of it is passed over. */
export const sizesByAttribute: Act = {
  loses: "",
  tries: [
    {
      html: `<img width="600" height="200" style="width:100%;max-width:100%;height:auto;border:0">`,
      gives: `<img width="600" height="200" style="border:0">`,
    },
    { html: `<img style="width:50px">`, gives: `<img style="width:50px">` },
  ],
  on(page) {
    for (const one of elementsOf(page)) {
      if (one.name !== "img" || !one.attribs.width) continue;
      const own = new Set(["width", "max-width", "min-width"]);
      if (one.attribs.height) own.add("height");
      restyle(one, ([property, value]) => (own.has(property) ? null : value));
    }
    return 0;
  },
};
