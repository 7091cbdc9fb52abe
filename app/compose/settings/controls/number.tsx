import { NumberField } from "../../../ui/number-field.tsx";
import { type Props, useValue } from "./control.ts";

export function NumberControl({ node, control }: Props<"number">) {
  const [value, set] = useValue<number | null>(node, control.path);
  const { label, min, max, unit, empty } = control;
  return <NumberField {...{ label, min, max, unit, empty, value }} onValue={set} />;
}
