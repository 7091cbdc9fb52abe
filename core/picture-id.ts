/** The SHA-256 that names a picture, in hex. */
export const PICTURE_ID = /^[a-f0-9]{64}$/;
