/** The rules of style elements, as far as emails use them: names, classes and ids, one within another (CSS Selectors 3). */
import postcss, { type Container, type Rule } from "postcss";
import { LIMITS } from "../../limits.ts";

interface Named {
  readonly tag: string;
  readonly attrs: Readonly<Record<string, string>>;
}
/** One element of a selector. */
interface Step {
  readonly tag: string | null;
  readonly id: string | null;
  readonly classes: readonly string[];
  /** It stands directly in the one before. */
  readonly child: boolean;
}
interface StyleRule {
  readonly steps: readonly Step[];
  readonly weight: number;
  readonly css: Readonly<Record<string, string>>;
}
/** Rules by what their last step asks for first: an id, a class, a name, or anything. */
export type StyleRules = ReadonlyMap<string, readonly StyleRule[]>;

const STEP = /^([a-z][a-z0-9]*|\*)?((?:[.#][A-Za-z_][\w-]*)*)$/i;

function stepsOf(selector: string): Step[] | null {
  const steps: Step[] = [];
  let child = false;
  for (const part of selector
    .replace(/\s*>\s*/g, " > ")
    .trim()
    .split(/\s+/)) {
    if (part === ">") {
      child = true;
      continue;
    }
    const found = STEP.exec(part);
    if (!found) return null;
    const names = found[2]!.match(/[.#][\w-]+/g) ?? [];
    steps.push({
      tag: found[1] && found[1] !== "*" ? found[1].toLowerCase() : null,
      id: names.find((name) => name.startsWith("#"))?.slice(1) ?? null,
      classes: names.filter((name) => name.startsWith(".")).map((name) => name.slice(1)),
      child,
    });
    child = false;
  }
  return steps.length ? steps : null;
}

const weightOf = (steps: readonly Step[]): number =>
  steps.reduce(
    (sum, { id, classes, tag }) => sum + (id ? 10_000 : 0) + classes.length * 100 + (tag ? 1 : 0),
    0,
  );

/** Declarations with the parts of shorthands that are asked for. */
function declared(list: Iterable<readonly [string, string]>): Record<string, string> {
  const css: Record<string, string> = {};
  for (const [name, written] of list) {
    const value = written.replace(/!important/i, "").trim();
    if (!value) continue;
    css[name] = value;
    if (name === "background") {
      const colour =
        /#[0-9a-f]{3,8}\b|rgba?\([^)]*\)/i.exec(value)?.[0] ?? /^[a-z]+$/i.exec(value)?.[0];
      if (colour) css["background-color"] = colour;
      const image = /url\([^)]*\)/i.exec(value)?.[0];
      if (image) css["background-image"] = image;
    }
    if (name === "font") {
      const [, before, size, , line, family] =
        /^(.*?)\b([\d.]+(px|pt|em|%))(?:\s*\/\s*([^\s]+))?\s+(.+)$/i.exec(value) ?? [];
      if (size) css["font-size"] = size;
      if (line) css["line-height"] = line;
      if (family) css["font-family"] = family;
      if (/bold|[6-9]00/i.test(before ?? "")) css["font-weight"] = "bold";
      if (/italic/i.test(before ?? "")) css["font-style"] = "italic";
    }
  }
  return css;
}

/** A sheet cut after each rule of its own; what is open at its end is closed (CSS Syntax 3, 2.2). */
function cutUp(sheet: string): string[] {
  const cuts: string[] = [];
  let depth = 0;
  let from = 0;
  for (const { 0: mark, index } of sheet.matchAll(/[{}]/g)) {
    depth = Math.max(0, depth + (mark === "{" ? 1 : -1));
    if (depth > 0) continue;
    cuts.push(sheet.slice(from, index + 1));
    from = index + 1;
    if (cuts.length > LIMITS.foreignStyles) return cuts;
  }
  cuts.push(sheet.slice(from) + "}".repeat(depth));
  return cuts;
}

const parsed = (css: string): Container["nodes"] => {
  try {
    return postcss.parse(css).nodes;
  } catch {
    return undefined;
  }
};

/** The rules of style sheets that always hold; those of media queries are for others. One that is broken is left out. */
export function rulesOf(written: string): StyleRules {
  const rules = new Map<string, StyleRule[]>();
  const sheet = written.replace(/<!--|-->/g, "");
  const nodes = parsed(sheet) ?? cutUp(sheet).flatMap((cut) => parsed(cut) ?? []);
  let count = 0;
  for (const node of nodes) {
    if (node.type !== "rule" || ++count > LIMITS.foreignStyles) continue;
    const rule = node as Rule;
    const css = declared(
      rule.nodes.flatMap((one) =>
        one.type === "decl" ? [[one.prop.toLowerCase(), one.value] as const] : [],
      ),
    );
    for (const selector of rule.selectors) {
      const steps = stepsOf(selector);
      const last = steps?.at(-1);
      if (!steps || !last) continue;
      const key = last.id
        ? `#${last.id}`
        : last.classes[0]
          ? `.${last.classes[0]}`
          : (last.tag ?? "*");
      const list = rules.get(key) ?? [];
      list.push({ steps, weight: weightOf(steps) + count / 1_000_000, css });
      rules.set(key, list);
    }
  }
  return rules;
}

const classesOf = ({ attrs }: Named): string[] => attrs.class?.split(/\s+/).filter(Boolean) ?? [];

function fits(step: Step, el: Named): boolean {
  if (step.tag && step.tag !== el.tag) return false;
  if (step.id && step.id !== el.attrs.id) return false;
  return step.classes.length === 0 || step.classes.every((one) => classesOf(el).includes(one));
}

function holds(steps: readonly Step[], el: Named, above: readonly Named[]): boolean {
  if (!fits(steps.at(-1)!, el)) return false;
  let at = above.length - 1;
  for (let i = steps.length - 2; i >= 0; i--) {
    const direct = steps[i + 1]!.child;
    while (at >= 0 && !fits(steps[i]!, above[at]!)) {
      if (direct) return false;
      at--;
    }
    if (at < 0) return false;
    at--;
  }
  return true;
}

const kept = new Map<string, Record<string, string>>();
const KEPT = 2_000;
/** What a style attribute says. Emails say the same again and again. */
function attributeStyles(style: string): Record<string, string> {
  let css = kept.get(style);
  if (!css) {
    css = declared(
      style.split(/;(?![^(]*\))/).flatMap((one) => {
        const at = one.indexOf(":");
        return at < 0 ? [] : [[one.slice(0, at).trim().toLowerCase(), one.slice(at + 1)] as const];
      }),
    );
    if (kept.size >= KEPT) kept.clear();
    kept.set(style, css);
  }
  return css;
}

/** The style properties that an element has itself. */
export function stylesOf(
  el: Named,
  above: readonly Named[],
  rules: StyleRules,
): Record<string, string> {
  const own = el.attrs.style ? attributeStyles(el.attrs.style) : {};
  if (rules.size === 0) return own;
  const keys = [
    el.tag,
    "*",
    ...classesOf(el).map((one) => `.${one}`),
    ...(el.attrs.id ? [`#${el.attrs.id}`] : []),
  ];
  const found = keys
    .flatMap((key) => rules.get(key) ?? [])
    .filter(({ steps }) => holds(steps, el, above));
  if (found.length === 0) return own;
  found.sort((a, b) => a.weight - b.weight);
  return Object.assign({}, ...found.map(({ css }) => css), own);
}
