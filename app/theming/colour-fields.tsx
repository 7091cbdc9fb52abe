/** The colours of a theme by their roles, light and dark. */
import { X } from "lucide-react";
import {
  COLOUR_ROLES,
  type ColourRole,
  colourOf,
  FOLLOWS,
  follows,
  type Palette,
  type Theme,
} from "#core/theme/theme.ts";
import { IconButton } from "../ui/button.tsx";
import { ColourInput } from "../ui/colour-input.tsx";

/** Names that fit beside two colours, in the order they stand; the whole one stands in the hint. */
const SHORT: Record<ColourRole, string> = {
  ground: "Around",
  sheet: "Sheet",
  tint: "Tint",
  ink: "Text",
  quiet: "Quiet",
  accent: "Accent",
  onAccent: "On it",
  line: "Lines",
  heading: "Headings",
  heading2: "Level 2",
  heading3: "Level 3",
  link: "Links",
  button: "Buttons",
  onButton: "On them",
  outline: "Outlined",
  card: "Cards",
  masthead: "Masthead",
  onMasthead: "On it",
  footer: "Footer",
  onFooter: "On it",
};
const ROLES = Object.keys(SHORT) as ColourRole[];
const HALVES = [
  { title: "Roles", roles: ROLES.filter((role) => !follows(role)) },
  { title: "Roles that follow others", roles: ROLES.filter(follows) },
];
const SIDES = { colours: "light", dark: "dark" } as const;

/** A palette in which a role has a colour, or follows another again. */
function withRole(palette: Palette, role: ColourRole, hex: string | null): Palette {
  if (hex !== null) return { ...palette, [role]: hex };
  return Object.fromEntries(Object.entries(palette).filter(([name]) => name !== role)) as Palette;
}

function RoleColour({
  palette,
  role,
  side,
  onPalette,
}: {
  palette: Palette;
  role: ColourRole;
  side: string;
  onPalette: (palette: Palette) => void;
}) {
  const label = `${COLOUR_ROLES[role]}, ${side}`;
  const own = palette[role] !== undefined;
  return (
    <td className="py-0.5">
      <span className="flex items-center">
        <ColourInput
          label={label}
          value={colourOf(palette, role)}
          quiet={!own}
          onValue={(hex) => onPalette(withRole(palette, role, hex))}
          onEmpty={() => follows(role) && onPalette(withRole(palette, role, null))}
        />
        {follows(role) && own && (
          <span className="hidden @xs:block">
            <IconButton
              label={`${label}: as ${COLOUR_ROLES[FOLLOWS[role]].toLowerCase()} again`}
              onClick={() => onPalette(withRole(palette, role, null))}
            >
              <X className="size-3.5" />
            </IconButton>
          </span>
        )}
      </span>
    </td>
  );
}

export function ColourFields({
  theme,
  onTheme,
}: {
  theme: Theme;
  onTheme: (theme: Theme) => void;
}) {
  const sides = (["colours", "dark"] as const).filter((side) => theme[side] !== null);
  const table = ({ title, roles }: (typeof HALVES)[number]) => (
    <table className="w-full text-small" aria-label={title}>
      <thead>
        <tr className="text-left text-ink-2">
          <th className="font-normal">Role</th>
          {sides.map((side) => (
            <th key={side} className="font-normal">
              {side === "dark" ? "Dark" : "Light"}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {roles.map((role) => (
          <tr key={role}>
            <th
              scope="row"
              title={
                follows(role)
                  ? `${COLOUR_ROLES[role]}; as ${COLOUR_ROLES[FOLLOWS[role]].toLowerCase()} unless it says so`
                  : COLOUR_ROLES[role]
              }
              className="pr-1 text-left font-normal"
            >
              {SHORT[role]}
            </th>
            {sides.map((side) => (
              <RoleColour
                key={side}
                palette={theme[side]!}
                {...{ role, side: SIDES[side] }}
                onPalette={(palette) => onTheme({ ...theme, [side]: palette })}
              />
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
  const [first, rest] = HALVES;
  const some = rest!.roles.some((role) => theme.colours[role] ?? theme.dark?.[role]);
  return (
    <div className="@container flex flex-col gap-2">
      {table(first!)}
      <details open={some}>
        <summary className="cursor-pointer text-small text-ink-2">{rest!.title}</summary>
        <div className="mt-1.5">{table(rest!)}</div>
        <p className="mt-1 text-fine text-ink-3">Emptied, a role follows the other again.</p>
      </details>
    </div>
  );
}
