/** Points as a file that every mail program shows: JPEG for photographs, PNG for the rest. */
import type { Sharp } from "sharp";

export interface Written {
  readonly data: Buffer;
  readonly ending: "png" | "jpg";
  readonly width: number;
  readonly height: number;
  /** Something of it can be seen through. */
  readonly alpha: boolean;
}

const JPEG = { quality: 84, mozjpeg: true };
const PNG = { palette: true, quality: 90 };
const LIGHT_JPEG = { quality: 66, mozjpeg: true };
const LIGHT_PNG = { palette: true, quality: 70, colours: 64 };

export const asJpeg = (image: Sharp, light = false): Sharp =>
  image.flatten({ background: "#ffffff" }).jpeg(light ? LIGHT_JPEG : JPEG);
export const asPng = (image: Sharp, light = false): Sharp => image.png(light ? LIGHT_PNG : PNG);

/** `photo`: it came as a JPEG. Light files are whichever is lighter, as long as nothing is seen through. */
export async function asFile(
  image: Sharp,
  { photo, light }: { photo: boolean; light: boolean },
): Promise<Written> {
  const alpha = !(await image.clone().stats()).isOpaque;
  const write = async (ending: "png" | "jpg"): Promise<Written> => {
    const one = image.clone();
    const { data, info } = await (ending === "jpg"
      ? asJpeg(one, light)
      : asPng(one, light)
    ).toBuffer({ resolveWithObject: true });
    return { data, ending, width: info.width, height: info.height, alpha };
  };
  if (alpha) return write("png");
  if (photo) return write("jpg");
  const png = await write("png");
  if (!light) return png;
  const jpg = await write("jpg");
  return jpg.data.length < png.data.length ? jpg : png;
}
