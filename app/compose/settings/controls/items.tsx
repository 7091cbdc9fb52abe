/** The items a block shows: picked by hand, or chosen by rule; what its reader has, and why. */
import { blockKind } from "#core/blocks/index.ts";
import type { DocNode } from "#core/document/index.ts";
import { type Choice, isPersonal } from "#core/items/index.ts";
import type { Json } from "#core/json.ts";
import { Button } from "../../../ui/button.tsx";
import { Field } from "../../../ui/field.tsx";
import { Select } from "../../../ui/select.tsx";
import { useDesigns } from "../../live/designs.ts";
import { ByHand } from "../items/by-hand.tsx";
import { ByRule, type Change } from "../items/by-rule.tsx";
import { Reasons, SpreadLine } from "../items/reasons.tsx";
import { type Props, useValue } from "./control.ts";

export function ItemsControl({ node, control }: Props<"items">) {
  const [choice, set] = useValue<Choice>(node, control.path);
  const onChange: Change = (change) => set({ ...choice, ...change } as unknown as Json);
  const one = control.one === true;
  return (
    <div className="flex flex-col gap-2.5">
      {!one && (
        <div className="flex items-center justify-between gap-2">
          <h3 className="font-display text-lead">
            {choice.picked ? "Picked by hand" : "Chosen by rule"}
          </h3>
          <Button onClick={() => onChange({ picked: choice.picked ? null : [] })}>
            {choice.picked ? "By rule" : "By hand"}
          </Button>
        </div>
      )}
      {choice.picked ? (
        <ByHand node={node} picked={choice.picked} onChange={onChange} one={one} />
      ) : (
        <ByRule node={node} kind={control.kind} choice={choice} onChange={onChange} />
      )}
      {!one && <Reasons node={node} />}
      {!choice.picked && isPersonal(choice) && <SpreadLine node={node} choice={choice} />}
      <DesignChoice node={node} />
    </div>
  );
}

/** Another design for the items, in place of the one that stands. */
function DesignChoice({ node }: { node: DocNode }) {
  const designs = blockKind(node.type)?.designs ?? [];
  const takeDesign = useDesigns(node);
  if (designs.length < 2) return null;
  return (
    <Field label="Start over with a layout">
      {(ids) => (
        <Select
          {...ids}
          value=""
          hint="Choose one"
          options={designs.map(({ id, label }) => ({ value: id, label }))}
          onValue={takeDesign}
        />
      )}
    </Field>
  );
}
