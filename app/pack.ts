/** Large values on their way to a page: as one JSON string they are written and read in a fraction of the time. */
export type Packed<T> = string & { readonly packed?: T };

/** `value` is plain JSON. */
export const pack = <T>(value: T): Packed<T> => JSON.stringify(value);

export const unpack = <T>(packed: Packed<T>): T => JSON.parse(packed) as T;
