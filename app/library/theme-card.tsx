/** A theme as it looks: its colours in use, light and dark, and which pairs are hard to read. */
import { contrastsOf, type PairContrast } from "#core/theme/contrasts.ts";
import {
  COLOUR_ROLES,
  type ColourRole,
  colourOf,
  FONTS,
  type Palette,
  type Theme,
} from "#core/theme/theme.ts";
import { counted } from "../ui/words.ts";

function Sample({ theme, palette, name }: { theme: Theme; palette: Palette; name: string }) {
  const heading = FONTS[theme.fonts.heading].stack;
  const body = FONTS[theme.fonts.body].stack;
  const of = (role: ColourRole) => colourOf(palette, role);
  return (
    <div
      role="img"
      aria-label={`${theme.name}, ${name}`}
      className="flex-1 p-3"
      style={{ background: palette.ground }}
    >
      <div style={{ background: palette.sheet, color: palette.ink, fontFamily: body }}>
        <div
          style={{ background: of("masthead"), color: of("onMasthead") }}
          className="px-3 py-1 text-fine font-bold tracking-wider uppercase"
        >
          {name}
        </div>
        <div className="px-3 py-2">
          <p style={{ fontFamily: heading, color: of("heading"), fontSize: 19, margin: 0 }}>
            A heading
          </p>
          <p style={{ fontSize: 13, margin: "2px 0 6px" }}>
            Running words, <span style={{ color: palette.quiet }}>quiet ones</span>,{" "}
            <span style={{ color: of("link") }} className="underline">
              a link
            </span>
            .
          </p>
          <span
            className="inline-block px-2.5 py-1 text-small font-bold"
            style={{
              background: of("button"),
              color: of("onButton"),
              borderRadius: theme.corner,
            }}
          >
            A button
          </span>
          <span
            className="ml-2 inline-block border-2 px-2 py-0.5 text-small font-bold"
            style={{
              borderColor: of("outline"),
              color: of("outline"),
              borderRadius: theme.corner,
            }}
          >
            Another
          </span>
        </div>
        <div
          className="px-3 py-1 text-small"
          style={{ background: palette.tint, borderTop: `1px solid ${palette.line}` }}
        >
          A tinted band
        </div>
        <div
          className="px-3 py-1 text-fine"
          style={{ background: of("footer"), color: of("onFooter") }}
        >
          The footer
        </div>
      </div>
    </div>
  );
}

const role = (name: keyof typeof COLOUR_ROLES) => COLOUR_ROLES[name].toLowerCase();

function Pairs({ pairs, label }: { pairs: readonly PairContrast[]; label: string }) {
  return (
    <table className="w-full text-small" aria-label={label}>
      <caption className="text-left text-ink-2">{label}</caption>
      <tbody>
        {pairs.map(({ ink, ground, ratio, holds, least }) => (
          <tr key={`${ink} ${ground}`}>
            <th scope="row" className="py-0.5 text-left font-normal">
              {COLOUR_ROLES[ink]} on {role(ground)}
            </th>
            <td className={`text-right tabular-nums ${holds ? "" : "font-semibold text-rust"}`}>
              {(Math.floor(ratio * 10) / 10).toFixed(1)}
              {!holds && <span className="sr-only">, less than {least}</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

export function ThemeCard({ theme, children }: { theme: Theme; children?: React.ReactNode }) {
  const light = contrastsOf(theme.colours);
  const dark = theme.dark ? contrastsOf(theme.dark) : [];
  const faint = [...light, ...dark].filter(({ holds }) => !holds).length;
  return (
    <article className="overflow-hidden rounded-md border bg-sheet">
      <div className="flex">
        <Sample theme={theme} palette={theme.colours} name="Light" />
        {theme.dark && <Sample theme={theme} palette={theme.dark} name="Dark" />}
      </div>
      <div className="border-t px-3 py-2.5">
        <div className="flex items-center gap-2">
          <h2 className="min-w-0 flex-1 truncate text-title">{theme.name}</h2>
          {children}
        </div>
        <p className="text-small text-ink-2">
          {FONTS[theme.fonts.heading].label} and {FONTS[theme.fonts.body].label.toLowerCase()}, text{" "}
          {theme.type.body} px
        </p>
        <details className="mt-1">
          <summary
            className={`cursor-pointer text-small font-semibold ${faint > 0 ? "text-saffron-ink" : "text-leaf"}`}
          >
            {faint === 0
              ? "Every pair of colours reads well"
              : `${counted(faint, "pair of colours is", "pairs of colours are")} hard to read`}
          </summary>
          <div className="mt-2 grid grid-cols-2 gap-4 max-md:grid-cols-1">
            <Pairs pairs={light} label="Contrast, light" />
            {dark.length > 0 && <Pairs pairs={dark} label="Contrast, dark" />}
          </div>
        </details>
      </div>
    </article>
  );
}
