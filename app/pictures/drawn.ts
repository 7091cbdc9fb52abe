/** What a recipe makes of an image, drawn by the server while somebody works on it. */
import { useEffect, useRef, useState } from "react";
import type { PictureRecipe } from "#core/pictures/recipe.ts";
import { toBase64Url } from "./base64.ts";

/** How long hands rest before it is drawn, ms. */
const REST = 250;

export interface Drawn {
  /** Of the drawn image, for an `img`; null until the first is there. */
  readonly src: string | null;
  /** Of its file. */
  readonly bytes: number | null;
  /** It is being drawn. */
  readonly busy: boolean;
  /** Why it could not be drawn. */
  readonly error: string | null;
}

const NOT_DRAWN = "This could not be drawn. Try again in a moment.";

/** Where the image of a recipe is. */
export const lookAddress = (picture: string, recipe: PictureRecipe): string =>
  `/library/image/${picture}/look?recipe=${toBase64Url(JSON.stringify(recipe))}`;

/** Draws the recipe over an original whenever hands rest; the last image stays until the next is there. */
export function useDrawn(original: string, recipe: PictureRecipe): Drawn {
  const [drawn, setDrawn] = useState<Drawn>({ src: null, bytes: null, busy: true, error: null });
  const address = lookAddress(original, recipe);
  const held = useRef<string | null>(null);
  useEffect(() => {
    const leaving = new AbortController();
    setDrawn((before) => ({ ...before, busy: true }));
    const timer = setTimeout(async () => {
      try {
        const response = await fetch(address, { signal: leaving.signal });
        if (!response.ok) throw new Error((await response.text()) || NOT_DRAWN);
        const blob = await response.blob();
        if (leaving.signal.aborted) return;
        if (held.current) URL.revokeObjectURL(held.current);
        held.current = URL.createObjectURL(blob);
        setDrawn({ src: held.current, bytes: blob.size, busy: false, error: null });
      } catch (error) {
        if (leaving.signal.aborted) return;
        const words = error instanceof TypeError ? NOT_DRAWN : (error as Error).message;
        setDrawn((before) => ({ ...before, busy: false, error: words }));
      }
    }, REST);
    return () => {
      clearTimeout(timer);
      leaving.abort();
    };
  }, [address]);
  useEffect(
    () => () => {
      if (held.current) URL.revokeObjectURL(held.current);
    },
    [],
  );
  return drawn;
}
