/** A moment so many ms after another. */
export const later = (now: Date, ms: number): Date => new Date(now.getTime() + ms);

export const earlier = (a: Date, b: Date): Date => (a < b ? a : b);
