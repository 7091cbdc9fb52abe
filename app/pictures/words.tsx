/** Words on an image. */
import { Plus, Trash2 } from "lucide-react";
import { LIMITS } from "#core/limits.ts";
import type { PictureRecipe, PictureWords } from "#core/pictures/recipe.ts";
import { Button, IconButton } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { ColourInput } from "../ui/colour-input.tsx";
import { INPUT } from "../ui/field.tsx";
import { Segmented } from "../ui/segmented.tsx";
import { Slider } from "./slider.tsx";

const NEW: PictureWords = {
  ...{ text: "Words", font: "serif", size: 12, ink: "#ffffff" },
  ...{ ground: null, across: 50, down: 50 },
};

function OnePiece({
  words,
  nth,
  onWords,
  onRemove,
}: {
  words: PictureWords;
  nth: number;
  onWords: (words: PictureWords) => void;
  onRemove: () => void;
}) {
  const set = (part: Partial<PictureWords>) => onWords({ ...words, ...part });
  const name = `Words ${nth}`;
  return (
    <fieldset className="flex flex-col gap-2 border-t pt-2.5">
      <legend className="sr-only">{name}</legend>
      <div className="flex gap-1.5">
        <input
          aria-label={name}
          value={words.text}
          maxLength={LIMITS.drawnWords}
          onChange={({ target }) => set({ text: target.value })}
          className={INPUT}
        />
        <IconButton label={`Remove ${name.toLowerCase()}`} onClick={onRemove}>
          <Trash2 />
        </IconButton>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <Segmented
          label={`Font of ${name.toLowerCase()}`}
          value={words.font}
          options={[
            { value: "serif", label: "Serif" },
            { value: "sans", label: "Sans" },
          ]}
          onChange={(font) => set({ font })}
        />
        <ColourInput
          label={`Colour of ${name.toLowerCase()}`}
          value={words.ink}
          onValue={(ink) => set({ ink })}
        />
      </div>
      <div className="flex items-center gap-2">
        <Checkbox
          label="On a ground"
          checked={words.ground !== null}
          onChange={({ target }) => set({ ground: target.checked ? "#000000" : null })}
        />
        {words.ground !== null && (
          <ColourInput
            label={`Ground of ${name.toLowerCase()}`}
            value={words.ground}
            onValue={(ground) => set({ ground })}
          />
        )}
      </div>
      <Slider label="Size" value={words.size} min={2} max={60} onValue={(size) => set({ size })} />
      <Slider
        label="From the left"
        value={words.across}
        min={0}
        max={100}
        onValue={(across) => set({ across })}
      />
      <Slider
        label="From the top"
        value={words.down}
        min={0}
        max={100}
        onValue={(down) => set({ down })}
      />
    </fieldset>
  );
}

export function WordsOnIt({
  recipe,
  onRecipe,
}: {
  recipe: PictureRecipe;
  onRecipe: (part: Partial<PictureRecipe>) => void;
}) {
  const { words } = recipe;
  return (
    <div className="flex flex-col gap-2.5">
      {words.map((one, i) => (
        <OnePiece
          key={i}
          words={one}
          nth={i + 1}
          onWords={(next) => onRecipe({ words: words.with(i, next) })}
          onRemove={() => onRecipe({ words: words.toSpliced(i, 1) })}
        />
      ))}
      {words.length < LIMITS.pictureWords && (
        <Button onClick={() => onRecipe({ words: [...words, NEW] })}>
          <Plus className="size-3.5" /> Add words
        </Button>
      )}
    </div>
  );
}
