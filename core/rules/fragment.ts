/** SQL comes from code and from checked names alone: nothing that was sent, JSON least of all, can be taken for it. */
const MADE = Symbol.for("septima.sql");

/** A piece of SQL with its parameters apart. Numbering them is left to whoever sends it. */
export interface Sql {
  readonly [MADE]: true;
  /** One more string than there are parameters. */
  readonly strings: readonly string[];
  readonly params: readonly unknown[];
}

const made = (strings: readonly string[], params: readonly unknown[]): Sql => ({
  [MADE]: true,
  strings,
  params,
});

export const isSql = (value: unknown): value is Sql =>
  typeof value === "object" && value !== null && MADE in value;

/** SQL as a template: pieces of SQL in holes are put in, everything else becomes a parameter. */
export function fragment(strings: TemplateStringsArray, ...holes: unknown[]): Sql {
  const texts = [strings[0]!];
  const params: unknown[] = [];
  holes.forEach((hole, i) => {
    const next = strings[i + 1]!;
    if (isSql(hole)) {
      texts[texts.length - 1] += hole.strings[0]!;
      hole.params.forEach((param, j) => {
        params.push(param);
        texts.push(hole.strings[j + 1]!);
      });
      texts[texts.length - 1] += next;
    } else {
      params.push(hole);
      texts.push(next);
    }
  });
  return made(texts, params);
}

/** A text that stands in the code as it is: of one that was put together the type names no key, and this is `never`. */
type Written<Text extends string> = Record<never, 1> extends Record<Text, 1> ? never : Text;

/** Constant SQL. */
export const constantSql = <const Text extends string>(text: Written<Text>): Sql =>
  made([text], []);

/** Pieces joined by a constant; none gives nothing. */
export function joinSql<const Text extends string>(
  parts: readonly Sql[],
  between: Written<Text>,
): Sql {
  const texts = [""];
  const params: unknown[] = [];
  parts.forEach((part, i) => {
    texts[texts.length - 1] += `${i === 0 ? "" : between}${part.strings[0]!}`;
    part.params.forEach((param, j) => {
      params.push(param);
      texts.push(part.strings[j + 1]!);
    });
  });
  return made(texts, params);
}

const NAME = /^[A-Za-z_][A-Za-z0-9_]{0,62}$/;

/** A table, a column, or a column of an alias (`identifier("c", "f_town")`). Throws where a name is none. */
export function identifier(...names: readonly string[]): Sql {
  for (const name of names) if (!NAME.test(name)) throw new Error(`Not a name: ${name}`);
  return made([names.map((name) => `"${name}"`).join(".")], []);
}

/** A whole number that stands in the statement itself. */
export function integerSql(n: number): Sql {
  if (!Number.isSafeInteger(n)) throw new Error(`Not a whole number: ${n}`);
  return made([String(n)], []);
}

/** The statement with numbered parameters, as PostgreSQL takes it. */
export const numbered = (sql: Sql): { text: string; params: unknown[] } => ({
  text: sql.strings.map((s, i) => (i === 0 ? s : `$${i}${s}`)).join(""),
  params: [...sql.params],
});
