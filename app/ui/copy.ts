/** Copying for pasting elsewhere. */
import { useToast } from "./toast.tsx";

/** Puts a text on the clipboard and says so; where the browser allows none, the text itself is shown. */
export function useCopy(): (text: string, said: string) => Promise<void> {
  const say = useToast();
  return async (text, said) => {
    const taken = await navigator.clipboard?.writeText(text).then(
      () => true,
      () => false,
    );
    say(taken ? said : text);
  };
}
