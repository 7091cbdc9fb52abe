/** The icons that block types name. */
import {
  AlignLeft,
  Heading,
  Image,
  type LucideIcon,
  Minus,
  MousePointerClick,
  MoveVertical,
  PanelBottom,
  Square,
} from "lucide-react";

const ICONS: Record<string, LucideIcon> = {
  heading: Heading,
  "align-left": AlignLeft,
  image: Image,
  "mouse-pointer-click": MousePointerClick,
  minus: Minus,
  "move-vertical": MoveVertical,
  "panel-bottom": PanelBottom,
};

export function BlockIcon({ name }: { name: string }) {
  const Icon = ICONS[name] ?? Square;
  return <Icon aria-hidden />;
}
