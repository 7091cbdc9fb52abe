import type { TextJson } from "#core/text/index.ts";
import { LineInput } from "../../text/line-input.tsx";
import { type Props, useValue } from "./control.ts";

export function LineControl({ node, control }: Props<"line">) {
  const [text] = useValue<TextJson>(node, control.path);
  return (
    <LineInput
      label={control.label}
      hint={control.hint}
      text={text}
      at={{ node: node.id, path: control.path }}
    />
  );
}
