/** Markup for the table-only engine alone: its conditional parts are read by it, and the others' are not. */
import type { Act } from "../family.ts";
import { elementsOf, remove, replace, styleOf, writePage } from "../page.ts";

const FOR_OTHERS = /<!--\[if !mso\]><!-->[\s\S]*?<!--<!\[endif\]-->/g;
const FOR_IT = /<!--\[if [^\]]*\bmso\b[^\]]*\]>([\s\S]*?)<!\[endif\]-->/g;

export const readsConditionals: Act = {
  loses: "",
  tries: [
    {
      html: `<!--[if mso]><b>x</b><![endif]--><!--[if !mso]><!--><i>y</i><!--<![endif]-->z`,
      gives: "<b>x</b>z",
    },
  ],
  before: (html) => ({
    html: html.replace(FOR_OTHERS, "").replace(FOR_IT, "$1"),
    places: 0,
  }),
};

/** Parts that are marked for it to leave out. */
export const hidesMarked: Act = {
  loses: "",
  tries: [
    { html: `<p style="mso-hide:all">x</p>`, gives: `<p style="mso-hide:all;display:none">x</p>` },
  ],
  on(page) {
    for (const one of elementsOf(page)) {
      if (styleOf(one, "mso-hide") === "all") one.attribs.style += ";display:none";
    }
    return 0;
  },
};

const inner = (html: string) => html.replace(/^<[^>]*>/, "").replace(/<\/[^>]*>$/, "");
const escaped = (value: string) => value.replaceAll("&", "&amp;").replaceAll('"', "&quot;");

/** Its own vector shapes, drawn by what a browser has: a box with a colour or a picture behind it, round corners. */
export const drawsVectors: Act = {
  loses: "",
  tries: [
    {
      html: `<v:rect fill="true" style="width:600px;height:90px"><v:fill src="a.png" color="#eeeeee"/><v:textbox inset="0"><p>x</p></v:textbox></v:rect>`,
      gives: `<div style="background-color:#eeeeee;background-image:url('a.png');background-size:cover;width:600px;min-height:90px"><p>x</p></div>`,
    },
    {
      html: `<v:roundrect href="b" style="width:100px;height:40px" arcsize="10%" fillcolor="#336655"><center style="color:#ffffff">x</center></v:roundrect>`,
      gives: `<a href="b" style="display:block;box-sizing:border-box;text-align:center;line-height:40px;width:100px;height:40px;border-radius:4px;background-color:#336655;color:#ffffff">x</a>`,
    },
  ],
  on(page) {
    const shapes = elementsOf(page).filter(({ name }) => /^[ovw]:/.test(name) || name === "xml");
    // From within: what a shape holds may be shapes.
    for (const one of shapes.reverse()) {
      const { attribs } = one;
      const size = (property: string) => styleOf(one, property);
      if (one.name === "v:rect") {
        const fill = elementsOf(one).find(({ name }) => name === "v:fill")?.attribs;
        const box = elementsOf(one).find(({ name }) => name === "v:textbox");
        const style = [
          fill?.color && `background-color:${fill.color}`,
          fill?.src && `background-image:url('${fill.src}')`,
          fill?.src && "background-size:cover",
          `width:${size("width") ?? "100%"}`,
          size("height") && `min-height:${size("height")}`,
        ];
        const words = box ? inner(writePage(box)) : inner(writePage(one));
        replace(one, `<div style="${escaped(style.filter(Boolean).join(";"))}">${words}</div>`);
      } else if (one.name === "v:roundrect") {
        const [width, height] = ["width", "height"].map((name) =>
          Number.parseFloat(size(name) ?? "0"),
        );
        const corner =
          (Number.parseFloat(attribs.arcsize ?? "0") / 100) * Math.min(width!, height!);
        const words = elementsOf(one).find(({ name }) => name === "center");
        const style = [
          "display:block;box-sizing:border-box;text-align:center",
          `line-height:${height}px;width:${width}px;height:${height}px;border-radius:${corner}px`,
          attribs.fillcolor && `background-color:${attribs.fillcolor}`,
          attribs.strokecolor &&
            `border:${attribs.strokeweight ?? "1px"} solid ${attribs.strokecolor}`,
          words?.attribs.style,
        ];
        const href = escaped(attribs.href ?? "");
        replace(
          one,
          `<a href="${href}" style="${escaped(style.filter(Boolean).join(";"))}">${words ? inner(writePage(words)) : ""}</a>`,
        );
      } else if (one.name === "xml" || one.name === "w:anchorlock") remove(one);
    }
    return 0;
  },
};

/** A cell of its own for what needs width: nothing but cells has padding. */
export const isCell = (name: string): boolean => name === "td" || name === "th";
