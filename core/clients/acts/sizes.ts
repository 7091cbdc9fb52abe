/** Type that is larger than the email says. */
import type { Act } from "../family.ts";
import { elementsOf, redeclare, restyle, type Style } from "../page.ts";

/** Sizes and lines of type grow; heights that are fixed do not. */
export function enlarges(times: number): Act {
  const grown = ([property, value]: Style): string => {
    if (property === "line-height" && !/px/i.test(value)) return value;
    if (property !== "font-size" && property !== "line-height") return value;
    return value.replace(/([\d.]+)(px|pt)/gi, (_, size, unit) => `${Number(size) * times}${unit}`);
  };
  return {
    loses: "",
    tries: [
      {
        html: `<p style="font-size:16px;line-height:24px;height:30px">x</p>`,
        gives: `<p style="font-size:${16 * times}px;line-height:${24 * times}px;height:30px">x</p>`,
      },
      {
        html: `<p style="font-size:0;line-height:1.5">x</p>`,
        gives: `<p style="font-size:0;line-height:1.5">x</p>`,
      },
    ],
    on(page) {
      for (const one of elementsOf(page)) restyle(one, grown);
      redeclare(page, grown);
      return 0;
    },
  };
}
