/** What every control of the settings works with. */
import { type DocNode, valueAt } from "#core/document/index.ts";
import type { Json } from "#core/json.ts";
import type { Control } from "#core/kinds/kind.ts";
import { useCommands } from "../../doing/commands.ts";

export interface Props<C extends Control["control"]> {
  node: DocNode;
  control: Extract<Control, { control: C }>;
}

/** The value of a control, and the way to set it. */
export function useValue<T>(node: DocNode, path: readonly string[]): [T, (value: Json) => boolean] {
  const { edit } = useCommands();
  return [
    valueAt(node.props, path) as T,
    (value) => edit({ type: "set", node: node.id, path: [...path], value }),
  ];
}
