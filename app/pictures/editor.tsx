/** Working on an image: what is seen is what is kept, drawn by the server from the original. */
import { Crop, FlipHorizontal2, FlipVertical2, RotateCcw, RotateCw } from "lucide-react";
import { type ReactNode, useState } from "react";
import { LIMITS } from "#core/limits.ts";
import {
  isPlain,
  type PictureRecipe,
  PLAIN,
  pictureRecipeSchema,
  type Size,
  sizeAfter,
} from "#core/pictures/recipe.ts";
import { Button, IconButton } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { ColourInput } from "../ui/colour-input.tsx";
import { NumberInput } from "../ui/number-input.tsx";
import { fileSize } from "../ui/words.ts";
import { Cutting, ratioOf, ShapeSelect } from "./cutting.tsx";
import { useDrawn } from "./drawn.ts";
import { Slider } from "./slider.tsx";
import { WordsOnIt } from "./words.tsx";

export interface Editable extends Size {
  readonly id: string;
  readonly bytes?: number;
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="flex flex-col gap-2 border-t py-3 first:border-t-0">
      <h3 className="text-lead italic">{title}</h3>
      {children}
    </section>
  );
}

const turnedBy = (recipe: PictureRecipe, by: 90 | 270): Partial<PictureRecipe> => ({
  turn: ((recipe.turn + by) % 360) as PictureRecipe["turn"],
  // What was cut out lay in an image that stood otherwise.
  area: null,
});

function Light({
  recipe,
  set,
}: {
  recipe: PictureRecipe;
  set: (part: Partial<PictureRecipe>) => void;
}) {
  const either = (label: string, of: "brightness" | "contrast" | "saturation" | "warmth") => (
    <Slider
      label={label}
      value={recipe[of]}
      min={-100}
      max={100}
      onValue={(value) => set({ [of]: value })}
    />
  );
  return (
    <Part title="Light and colours">
      {either("Brightness", "brightness")}
      {either("Contrast", "contrast")}
      {either("Saturation", "saturation")}
      {either("Warmth", "warmth")}
      <Slider
        label="Sharpness"
        value={recipe.sharpness}
        min={0}
        max={100}
        onValue={(sharpness) => set({ sharpness })}
      />
    </Part>
  );
}

function Edges({
  recipe,
  set,
}: {
  recipe: PictureRecipe;
  set: (part: Partial<PictureRecipe>) => void;
}) {
  const { tint, frame } = recipe;
  return (
    <Part title="Tint, corners, frame">
      <div className="flex items-center gap-2">
        <Checkbox
          label="A tint over it"
          checked={tint !== null}
          onChange={({ target }) =>
            set({ tint: target.checked ? { colour: "#1f3d2e", strength: 40 } : null })
          }
        />
        {tint && (
          <ColourInput
            label="Colour of the tint"
            value={tint.colour}
            onValue={(colour) => set({ tint: { ...tint, colour } })}
          />
        )}
      </div>
      {tint && (
        <Slider
          label="Strength"
          value={tint.strength}
          min={0}
          max={100}
          onValue={(strength) => set({ tint: { ...tint, strength } })}
        />
      )}
      <Slider
        label="Corners"
        value={recipe.corner}
        min={0}
        max={50}
        onValue={(corner) => set({ corner })}
      />
      <div className="flex items-center gap-2">
        <Checkbox
          label="A frame"
          checked={frame !== null}
          onChange={({ target }) =>
            set({ frame: target.checked ? { colour: "#ffffff", width: 3 } : null })
          }
        />
        {frame && (
          <ColourInput
            label="Colour of the frame"
            value={frame.colour}
            onValue={(colour) => set({ frame: { ...frame, colour } })}
          />
        )}
      </div>
      {frame && (
        <Slider
          label="Its width"
          value={frame.width}
          min={1}
          max={20}
          onValue={(width) => set({ frame: { ...frame, width } })}
        />
      )}
    </Part>
  );
}

export function PictureEditor({
  original,
  initial,
  place = null,
  children,
}: {
  original: Editable;
  /** What was done to it before; null for nothing. */
  initial: PictureRecipe | null;
  /** The shape of the place it is for, width by height. */
  place?: number | null;
  /** What can be done with what is made: gets the recipe, or null while it is none. */
  children: (recipe: PictureRecipe | null, changed: boolean) => ReactNode;
}) {
  const [recipe, setRecipe] = useState(initial ?? PLAIN);
  const [cutting, setCutting] = useState(false);
  const [shape, setShape] = useState("free");
  const set = (part: Partial<PictureRecipe>) => setRecipe((before) => ({ ...before, ...part }));
  // Words that are being written may be none for a moment.
  const said = { ...recipe, words: recipe.words.filter(({ text }) => text.trim() !== "") };
  const ready = pictureRecipeSchema.safeParse(said).data ?? null;
  const whole: PictureRecipe = {
    ...PLAIN,
    ...{ turn: recipe.turn, flip: recipe.flip, flop: recipe.flop },
  };
  const drawn = useDrawn(original.id, cutting ? whole : (ready ?? whole));
  const size = sizeAfter(recipe, original, LIMITS.emailWidth.max * 2);
  const changed =
    JSON.stringify(ready) !== JSON.stringify(pictureRecipeSchema.parse(initial ?? PLAIN));
  return (
    <div className="flex gap-5 max-lg:flex-col">
      <div className="min-w-0 flex-1">
        <div
          role="toolbar"
          aria-label="Turn and cut"
          className="mb-2 flex flex-wrap items-center gap-1"
        >
          <IconButton label="Turn left" onClick={() => set(turnedBy(recipe, 270))}>
            <RotateCcw />
          </IconButton>
          <IconButton label="Turn right" onClick={() => set(turnedBy(recipe, 90))}>
            <RotateCw />
          </IconButton>
          <IconButton
            label="Left and right change places"
            aria-pressed={recipe.flop}
            onClick={() => set({ flop: !recipe.flop, area: null })}
          >
            <FlipVertical2 />
          </IconButton>
          <IconButton
            label="Top and bottom change places"
            aria-pressed={recipe.flip}
            onClick={() => set({ flip: !recipe.flip, area: null })}
          >
            <FlipHorizontal2 />
          </IconButton>
          <Button aria-pressed={cutting} onClick={() => setCutting(!cutting)}>
            <Crop className="size-3.5" /> {cutting ? "Done cutting" : "Cut out"}
          </Button>
          {cutting && (
            <>
              <ShapeSelect
                {...{ shape, place, recipe, original }}
                onShape={(next, area) => {
                  setShape(next);
                  set({ area });
                }}
              />
              <Button disabled={!recipe.area} onClick={() => set({ area: null })}>
                Whole image
              </Button>
            </>
          )}
          <span className="ml-auto" />
          <Button disabled={isPlain(recipe)} onClick={() => setRecipe(PLAIN)}>
            Back to the original
          </Button>
        </div>
        <div className="flex min-h-72 items-center justify-center overflow-hidden rounded-md border bg-bench p-3">
          {drawn.src &&
            (cutting ? (
              <Cutting
                src={drawn.src}
                area={recipe.area}
                ratio={ratioOf(shape, place)}
                onArea={(area) => set({ area })}
              />
            ) : (
              <img src={drawn.src} alt="As it will be" className="max-h-[52vh] max-w-full" />
            ))}
        </div>
        <p role="status" className="mt-2 text-small text-ink-2">
          {drawn.error ? (
            <span className="font-semibold text-rust">{drawn.error}</span>
          ) : (
            <>
              {size.width} × {size.height}
              {drawn.bytes !== null && !cutting && (
                <>
                  , {fileSize(drawn.bytes)}
                  {original.bytes && changed ? ` (${fileSize(original.bytes)} before)` : ""}
                </>
              )}
              {drawn.busy && " …"}
            </>
          )}
        </p>
        {children(ready, changed)}
      </div>
      <div className="w-80 flex-none max-lg:w-full">
        <Part title="Weight">
          <Checkbox
            label="As light a file as still looks well"
            checked={recipe.light}
            onChange={({ target }) => set({ light: target.checked })}
          />
          <div className="flex items-center gap-2 text-small text-ink-2">
            Width, px
            <NumberInput
              label="Width of the image, px"
              value={recipe.width}
              min={1}
              max={LIMITS.emailWidth.max * 2}
              onValue={(width) => set({ width: width === null ? null : Math.round(width) })}
            />
          </div>
        </Part>
        <Light recipe={recipe} set={set} />
        <Part title="Words on it">
          <WordsOnIt recipe={recipe} onRecipe={set} />
        </Part>
        <Edges recipe={recipe} set={set} />
      </div>
    </div>
  );
}
