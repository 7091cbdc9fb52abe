/** A piece of SQL with its parameters apart. Numbering them is left to whoever sends it. */
export interface Sql {
  /** One more string than there are parameters. */
  readonly strings: readonly string[];
  readonly params: readonly unknown[];
}

export const isSql = (value: unknown): value is Sql =>
  typeof value === "object" && value !== null && "strings" in value && "params" in value;

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
  return { strings: texts, params };
}

/** Pieces joined by a constant. */
export function joinSql(parts: readonly Sql[], between: string): Sql {
  return parts.reduce((all, part, i) => {
    if (i === 0) return part;
    const glue: Sql = { strings: [between], params: [] };
    return fragment`${all}${glue}${part}`;
  });
}

/** Constant SQL, from code only. */
export const constantSql = (text: string): Sql => ({ strings: [text], params: [] });

/** The statement with numbered parameters, as PostgreSQL takes it. */
export const numbered = (sql: Sql): { text: string; params: unknown[] } => ({
  text: sql.strings.map((s, i) => (i === 0 ? s : `$${i}${s}`)).join(""),
  params: [...sql.params],
});
