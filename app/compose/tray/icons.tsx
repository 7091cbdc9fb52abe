/** The icons that block types name. */
import {
  AlignLeft,
  Captions,
  CirclePlay,
  Code,
  Ellipsis,
  Forward,
  Heading,
  Image,
  LayoutGrid,
  LayoutList,
  type LucideIcon,
  Minus,
  MousePointerClick,
  MoveVertical,
  PanelBottom,
  PanelTop,
  QrCode,
  Quote,
  Share2,
  Signature,
  Square,
  SquareDashed,
  Table,
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
  table: Table,
  signature: Signature,
  captions: Captions,
  "layout-grid": LayoutGrid,
  "circle-play": CirclePlay,
  ellipsis: Ellipsis,
  "share-2": Share2,
  forward: Forward,
  "qr-code": QrCode,
  "square-dashed": SquareDashed,
  "panel-top": PanelTop,
  code: Code,
};

export function BlockIcon({ name }: { name: string }) {
  const Icon = ICONS[name] ?? Square;
  return <Icon aria-hidden />;
}
