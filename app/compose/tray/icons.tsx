/** The icons that block types name. */
import {
  AlignLeft,
  Heading,
  Image,
  LayoutList,
  type LucideIcon,
  Minus,
  MousePointerClick,
  MoveVertical,
  PanelBottom,
  Quote,
  Square,
  Ticket,
} from "lucide-react";

const ICONS: Record<string, LucideIcon> = {
  heading: Heading,
  "align-left": AlignLeft,
  image: Image,
  "mouse-pointer-click": MousePointerClick,
  minus: Minus,
  "move-vertical": MoveVertical,
  "panel-bottom": PanelBottom,
  "layout-list": LayoutList,
  quote: Quote,
  ticket: Ticket,
};

export function BlockIcon({ name }: { name: string }) {
  const Icon = ICONS[name] ?? Square;
  return <Icon aria-hidden />;
}
