/** The widths at which an email is looked at, and whether light or dark. */
import { Moon, Sun } from "lucide-react";
import { IconButton } from "../ui/button.tsx";

export const WIDTHS = [
  { value: "320", label: "320 px, small phone" },
  { value: "375", label: "375 px, phone" },
  { value: "414", label: "414 px, large phone" },
  { value: "768", label: "768 px, tablet" },
  { value: "1024", label: "1024 px, tablet on its side" },
  { value: "1280", label: "1280 px, desktop" },
] as const;

export function DarkSwitch({ dark, onDark }: { dark: boolean; onDark: (dark: boolean) => void }) {
  return (
    <IconButton
      label={dark ? "Show it light" : "Show it dark"}
      aria-pressed={dark}
      onClick={() => onDark(!dark)}
    >
      {dark ? <Sun /> : <Moon />}
    </IconButton>
  );
}
