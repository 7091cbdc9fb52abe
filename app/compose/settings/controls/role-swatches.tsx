/** The roles of the theme as swatches to choose from. */
import clsx from "clsx";
import { COLOUR_ROLES, type ColourRole, type Theme } from "#core/theme/theme.ts";

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
  return (Object.keys(COLOUR_ROLES) as ColourRole[]).map((role) => (
    <button
      key={role}
      type="button"
      title={COLOUR_ROLES[role]}
      aria-label={COLOUR_ROLES[role]}
      aria-pressed={value === role}
      onClick={() => onChoose(role)}
      className={clsx(
        "mx-px rounded-full border border-line-strong",
        large ? "size-6" : "size-[18px]",
        value === role && "outline-2 outline-plum outline-offset-1",
      )}
      style={{ background: theme.colours[role] }}
    />
  ));
}
