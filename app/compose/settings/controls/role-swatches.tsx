/** Colours to choose from, as round swatches. */
import clsx from "clsx";
import { COLOUR_ROLES, type ColourRole, colourOf, type Theme } from "#core/theme/theme.ts";

export function Swatch({
  colour,
  label,
  on,
  large = false,
  onChoose,
}: {
  colour: string;
  label: string;
  on: boolean;
  large?: boolean;
  onChoose: () => void;
}) {
  return (
    <button
      type="button"
      title={label}
      aria-label={label}
      aria-pressed={on}
      onClick={onChoose}
      className={clsx(
        "mx-px rounded-full border border-line-strong",
        large ? "size-6" : "size-[18px]",
        on && "outline-2 outline-plum outline-offset-1",
      )}
      style={{ background: colour }}
    />
  );
}

/** The roles of the theme. */
export function RoleSwatches({
  theme,
  value,
  large = false,
  onChoose,
}: {
  theme: Theme;
  /** The chosen colour: a role, a fixed one, or none. */
  value: string | null;
  large?: boolean;
  onChoose: (role: ColourRole) => void;
}) {
  // Those that follow others look like them: they stand there where they have a colour of their own, or are chosen.
  const shown = (Object.keys(COLOUR_ROLES) as ColourRole[]).filter(
    (role) => theme.colours[role] !== undefined || value === role,
  );
  return shown.map((role) => (
    <Swatch
      key={role}
      colour={colourOf(theme.colours, role)}
      label={COLOUR_ROLES[role]}
      on={value === role}
      large={large}
      onChoose={() => onChoose(role)}
    />
  ));
}
