/** Cutting a part out of an image: freely, or in a shape. */
import "react-image-crop/dist/ReactCrop.css";
import ReactCrop from "react-image-crop";
import { largestArea, RATIOS } from "#core/pictures/crop.ts";
import { type Area, type PictureRecipe, type Size, turned } from "#core/pictures/recipe.ts";
import { Select } from "../ui/select.tsx";

const WHOLE: Area = { x: 0, y: 0, width: 1, height: 1 };
const FREE = "free";
/** The shape of the place in the email the image is for. */
const PLACE = "place";

/** The shapes that can be chosen; `place` is that of a place in an email. */
const shapesOf = (place: number | null) => [
  { value: FREE, label: "Free" },
  ...(place ? [{ value: PLACE, label: "As its place" }] : []),
  ...RATIOS.map(({ label }) => ({ value: label, label })),
];
export const ratioOf = (shape: string, place: number | null): number | null =>
  shape === PLACE ? place : (RATIOS.find(({ label }) => label === shape)?.ratio ?? null);

export function ShapeSelect({
  shape,
  place,
  recipe,
  original,
  onShape,
}: {
  shape: string;
  place: number | null;
  recipe: PictureRecipe;
  original: Size;
  onShape: (shape: string, area: Area | null) => void;
}) {
  return (
    <Select
      label="Shape"
      className="w-36"
      value={shape}
      options={shapesOf(place)}
      onValue={(next) => {
        const ratio = ratioOf(next, place);
        const area = ratio ? largestArea(turned(original, recipe), ratio) : recipe.area;
        onShape(next || FREE, area);
      }}
    />
  );
}

/** The whole image with what is cut out of it. */
export function Cutting({
  src,
  area,
  ratio,
  onArea,
}: {
  src: string;
  area: Area | null;
  /** Width by height; null for free. */
  ratio: number | null;
  onArea: (area: Area | null) => void;
}) {
  const { x, y, width, height } = area ?? WHOLE;
  return (
    <ReactCrop
      crop={{ unit: "%", x: x * 100, y: y * 100, width: width * 100, height: height * 100 }}
      aspect={ratio ?? undefined}
      keepSelection
      ruleOfThirds
      ariaLabels={{
        cropArea: "What is cut out: move it with the arrow keys",
        nwDragHandle: "Upper left corner: move it with the arrow keys",
        nDragHandle: "Upper edge: move it with the arrow keys",
        neDragHandle: "Upper right corner: move it with the arrow keys",
        eDragHandle: "Right edge: move it with the arrow keys",
        seDragHandle: "Lower right corner: move it with the arrow keys",
        sDragHandle: "Lower edge: move it with the arrow keys",
        swDragHandle: "Lower left corner: move it with the arrow keys",
        wDragHandle: "Left edge: move it with the arrow keys",
      }}
      onChange={(_, per) => {
        const part = (n: number) => Math.max(0, Math.min(1, n / 100));
        const next = { x: part(per.x), y: part(per.y) };
        const wide = Math.min(part(per.width), 1 - next.x);
        const high = Math.min(part(per.height), 1 - next.y);
        if (wide > 0 && high > 0) onArea({ ...next, width: wide, height: high });
      }}
    >
      <img src={src} alt="" className="max-h-[52vh]" />
    </ReactCrop>
  );
}
