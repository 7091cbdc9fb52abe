/** A colour: the theme's roles first, then its palette, those used lately, and any other. */
import clsx from "clsx";
import { Plus } from "lucide-react";
import { useEffect, useState } from "react";
import { type Colour, resolveColour, type Theme } from "#core/theme/theme.ts";
import { HexInput } from "../../../ui/hex-input.tsx";
import { Popover } from "../../../ui/popover.tsx";
import { useReading } from "../../reading/reading.ts";
import { ColourPicker } from "./colour-picker.tsx";
import { type Props, useValue } from "./control.ts";
import { recentColours, rememberColour } from "./recent.ts";
import { RoleSwatches, Swatch } from "./role-swatches.tsx";

export function ColourControl({ node, control }: Props<"colour">) {
  const { doc } = useReading("doc");
  const [value, set] = useValue<Colour | null>(node, control.path);
  const theme = doc.root.props.theme as unknown as Theme;
  const own = typeof value === "string" && value.startsWith("#");
  const [open, setOpen] = useState(false);
  const [wrong, setWrong] = useState(false);
  // Read after the first drawing, which is the same as on the server, and after every choice.
  const [lately, setLately] = useState<readonly string[]>([]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a choice is what makes a colour a recent one
  useEffect(() => setLately(recentColours()), [value]);
  const recent = lately.filter((hex) => !theme.palette.includes(hex));
  const take = (hex: string) => {
    rememberColour(hex);
    set(hex);
  };
  const fixed = own && !theme.palette.includes(value) && !recent.includes(value) ? [value] : [];
  return (
    <fieldset>
      <legend className="sr-only">{control.label}</legend>
      <div className="mb-1 flex items-center justify-between">
        <span aria-hidden className="text-small text-ink-2">
          {control.label}
        </span>
        <span className="flex items-center gap-1.5">
          {control.none && (
            <button
              type="button"
              onClick={() => set(null)}
              aria-pressed={value === null}
              className={clsx(
                "rounded-full border border-line-strong px-2 text-fine",
                value === null && "outline-2 outline-plum outline-offset-1",
              )}
            >
              {control.none}
            </button>
          )}
          <HexInput
            label={`${control.label}, as # and six digits`}
            value={own ? value : ""}
            onValue={take}
            onWrong={setWrong}
          />
        </span>
      </div>
      <div className="flex flex-wrap items-center gap-1">
        <RoleSwatches theme={theme} value={value} onChoose={set} />
        {[...theme.palette, ...recent, ...fixed].map((hex, i) => (
          <Swatch
            key={hex}
            colour={hex}
            label={`${hex}${i < theme.palette.length ? ", of the palette" : ", used lately"}`}
            on={value === hex}
            onChoose={() => take(hex)}
          />
        ))}
        <Popover
          label="Another colour"
          open={open}
          onOpenChange={setOpen}
          align="end"
          trigger={
            <button
              type="button"
              aria-label={`Another colour: ${control.label.toLowerCase()}`}
              title="Another colour"
              className="flex size-[18px] items-center justify-center rounded-full border border-line-strong border-dashed text-ink-2 hover:border-plum hover:text-plum"
            >
              <Plus className="size-3" aria-hidden />
            </button>
          }
        >
          <ColourPicker
            value={value ? resolveColour(value, theme) : theme.colours.accent}
            onTake={(hex) => {
              take(hex);
              setOpen(false);
            }}
          />
        </Popover>
      </div>
      {wrong && (
        <p role="alert" className="mt-1 text-small font-semibold text-rust">
          Three or six digits, from 0 to f.
        </p>
      )}
    </fieldset>
  );
}
