/** The SHA-256 that names a picture, in hex. */
export const PICTURE_ID = /^[a-f0-9]{64}$/;

/** How much of it stands in addresses: 88 bits; longer names in hex are a mark of junk to common filters. */
const IN_ADDRESS = 22;

/** The name of a picture's file in addresses, by its file (id and ending). */
export const nameInAddress = (file: string): string =>
  `${file.slice(0, IN_ADDRESS)}${file.slice(file.lastIndexOf("."))}`;

/** Where readers' programs find a picture of the library. */
export const pictureAddress = (
  publicAddress: string,
  { file }: { readonly file: string },
): string => `${publicAddress}/pictures/${nameInAddress(file)}`;
