const number = new Intl.NumberFormat("en-GB");

/** A number of things in words, as the workplace says it: “1 reader”, “2,107 readers”. */
export const counted = (n: number, one: string, many = `${one}s`): string =>
  `${number.format(n)} ${n === 1 ? one : many}`;
