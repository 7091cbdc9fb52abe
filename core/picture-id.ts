/** The SHA-256 that names a picture, in hex. */
export const PICTURE_ID = /^[a-f0-9]{64}$/;

/** How much of it stands in addresses: 88 bits; longer names in hex are a mark of junk to common filters. */
const IN_ADDRESS = 22;

/** The name of a picture's file in addresses, by its file (id and ending). */
export const nameInAddress = (file: string): string =>
  `${file.slice(0, IN_ADDRESS)}${file.slice(file.lastIndexOf("."))}`;

/** Where readers' programs find a picture of the library; `width`: the file of that width, px, where it is not the picture as it is. */
export const pictureAddress = (
  publicAddress: string,
  { file }: { readonly file: string },
  width: number | null = null,
): string => {
  const name = nameInAddress(file);
  const at = name.lastIndexOf(".");
  const sized = width === null ? name : `${name.slice(0, at)}-${width}${name.slice(at)}`;
  return `${publicAddress}/pictures/${sized}`;
};

/** What the name of a file in an address asks for: a picture by its name there, and the width, px; null for the picture as it is. */
export function readName(asked: string): { readonly name: string; readonly width: number | null } {
  const sized = /^([a-f0-9]+)-([0-9]{1,4})(\.[a-z]+)$/.exec(asked);
  return sized
    ? { name: `${sized[1]}${sized[3]}`, width: Number(sized[2]) }
    : { name: asked, width: null };
}
