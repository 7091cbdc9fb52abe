/** Bytes as KB of 1,024, as mail programs count what they show. */
export const kilobytes = (bytes: number): number => Math.ceil(bytes / 1024);
