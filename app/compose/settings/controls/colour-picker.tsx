/** Any colour: picked by hand, typed, or taken from the screen where the browser can. */
import { Pipette } from "lucide-react";
import { useState } from "react";
import { HexColorPicker } from "react-colorful";
import { LIMITS } from "#core/limits.ts";
import { hexOf, type Theme } from "#core/theme/theme.ts";
import { Button, IconButton } from "../../../ui/button.tsx";
import { Field, INPUT } from "../../../ui/field.tsx";
import { useCommands } from "../../doing/commands.ts";
import { useReading } from "../../reading/reading.ts";

/** The EyeDropper API (WICG draft), where it is there. */
interface EyeDropper {
  open(): Promise<{ sRGBHex: string }>;
}
const eyeDropper = (): (new () => EyeDropper) | null =>
  (globalThis as { EyeDropper?: new () => EyeDropper }).EyeDropper ?? null;

export function ColourPicker({ value, onTake }: { value: string; onTake: (hex: string) => void }) {
  const { doc } = useReading("doc");
  const { edit } = useCommands();
  const theme = doc.root.props.theme as unknown as Theme;
  const [draft, setDraft] = useState(value);
  const hex = hexOf(draft) ?? "";
  const right = hex !== "";
  const full = theme.palette.length >= LIMITS.palette;
  const pick = async () => {
    const Dropper = eyeDropper();
    try {
      if (Dropper) setDraft((await new Dropper().open()).sRGBHex);
    } catch {
      // Called off with Escape.
    }
  };
  return (
    <form
      className="flex w-56 flex-col gap-2.5 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        event.stopPropagation();
        if (right) onTake(hex);
      }}
    >
      <HexColorPicker
        color={right ? hex : value}
        onChange={setDraft}
        style={{ width: "100%", height: 130 }}
      />
      <div className="flex items-end gap-1.5">
        <div className="min-w-0 flex-1">
          <Field label="Hex" errors={right ? null : ["Three or six digits, from 0 to f."]}>
            {(ids) => (
              <input
                {...ids}
                value={draft}
                maxLength={12}
                className={INPUT}
                onChange={(event) => setDraft(event.target.value)}
              />
            )}
          </Field>
        </div>
        {eyeDropper() && (
          <IconButton label="Take a colour from the screen" onClick={() => void pick()}>
            <Pipette />
          </IconButton>
        )}
      </div>
      <div className="flex flex-wrap gap-2">
        <Button type="submit" primary disabled={!right}>
          Use this colour
        </Button>
        <Button
          disabled={!right || full || theme.palette.includes(hex)}
          title={full ? `A palette has at most ${LIMITS.palette} colours.` : undefined}
          onClick={() => {
            const palette = [...theme.palette, hex];
            if (
              edit({ type: "set", node: doc.root.id, path: ["theme", "palette"], value: palette })
            ) {
              onTake(hex);
            }
          }}
        >
          Keep in the palette
        </Button>
      </div>
    </form>
  );
}
