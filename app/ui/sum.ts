/** Simple sums in number fields: + − × ÷ and brackets, as they are typed. */

const TOKEN = /\s*(?:(\d+(?:[.,]\d+)?)|([-+*/()×÷−]))/y;

function tokensOf(text: string): string[] | null {
  const tokens: string[] = [];
  let at = 0;
  while (text.slice(at).trim() !== "") {
    TOKEN.lastIndex = at;
    const found = TOKEN.exec(text);
    if (!found) return null;
    at = TOKEN.lastIndex;
    const sign = found[2]?.replace("×", "*").replace("÷", "/").replace("−", "-");
    tokens.push(sign ?? found[1]!.replace(",", "."));
  }
  return tokens;
}

/** What a sum comes to, or null where it is none. */
export function sumOf(text: string): number | null {
  const tokens = tokensOf(text);
  if (!tokens?.length) return null;
  let at = 0;
  const take = (...signs: string[]) =>
    signs.includes(tokens[at] ?? "") ? tokens[at++] : undefined;
  const part = (): number => {
    if (take("-")) return -part();
    if (take("(")) {
      const inner = sum();
      return take(")") ? inner : Number.NaN;
    }
    return Number(tokens[at++] ?? Number.NaN);
  };
  const product = (): number => {
    let value = part();
    for (let sign = take("*", "/"); sign; sign = take("*", "/")) {
      value = sign === "*" ? value * part() : value / part();
    }
    return value;
  };
  const sum = (): number => {
    let value = product();
    for (let sign = take("+", "-"); sign; sign = take("+", "-")) {
      value += sign === "+" ? product() : -product();
    }
    return value;
  };
  const value = sum();
  return at === tokens.length && Number.isFinite(value) ? value : null;
}
