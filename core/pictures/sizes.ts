/** How large a file is sent for a place in an email. */

/** Dense screens show two pixels a point; more can hardly be seen, and weighs. */
const DENSE = 2;
/** Widths come in steps, so that a place that is moved a little needs no other file. */
const STEP = 80;
/** An image this little wider than its place needs it goes out as it is. */
const ENOUGH = 1.15;
/** px; an image that fills its place on narrow may be this wide there. */
const NARROW = 480;

/**
 * The width of the file for a place `width` px wide, px; null for the image as it is. `grows`: it fills narrow windows.
 * An animation goes out as it is: its frames are drawn once.
 */
export function sentWidth(
  picture: { readonly width: number; readonly file: string },
  width: number,
  grows: boolean,
): number | null {
  if (picture.file.endsWith(".gif")) return null;
  const widest = grows ? Math.max(width, NARROW) : width;
  const wanted = Math.ceil((widest * DENSE) / STEP) * STEP;
  return picture.width > wanted * ENOUGH ? wanted : null;
}

/** Whether files of a width are made: nobody can ask for one of every pixel. */
export const isSentWidth = (width: number): boolean => width > 0 && width % STEP === 0;
