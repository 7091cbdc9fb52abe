/** The controls that block types ask for: one file a kind, and a line here. */
import { lazy, Suspense } from "react";
import type { DocNode } from "#core/document/index.ts";
import type { Control } from "#core/kinds/kind.ts";
import { Origin } from "../style/origin.tsx";
import { BorderControl } from "./border.tsx";
import { ChoiceControl } from "./choice.tsx";
import { ColourControl } from "./colour.tsx";
import { DayControl } from "./day.tsx";
import { FocusControl } from "./focus.tsx";
import { ItemControl } from "./item.tsx";
import { ItemsControl } from "./items.tsx";
import { LineControl } from "./line.tsx";
import { LinkControl } from "./link.tsx";
import { MomentControl } from "./moment.tsx";
import { NumberControl } from "./number.tsx";
import { PictureControl } from "./picture.tsx";
import { SwitchControl } from "./switch.tsx";
import { TypeControl } from "./type.tsx";

/** With the cleaner of HTML, which is loaded with the first of them. */
const CodeControl = lazy(() => import("./code.tsx"));

/** One control of a block's settings. */
export function ControlView({ node, control }: { node: DocNode; control: Control }) {
  switch (control.control) {
    case "line":
      return <LineControl node={node} control={control} />;
    case "link":
      return <LinkControl node={node} control={control} />;
    case "picture":
      return <PictureControl node={node} control={control} />;
    case "colour":
      return <ColourControl node={node} control={control} />;
    case "number":
      return <NumberControl node={node} control={control} />;
    case "focus":
      return <FocusControl node={node} control={control} />;
    case "day":
      return <DayControl key={node.id} node={node} control={control} />;
    case "moment":
      return <MomentControl key={node.id} node={node} control={control} />;
    case "choice":
      return <ChoiceControl node={node} control={control} />;
    case "switch":
      return <SwitchControl node={node} control={control} />;
    case "type":
      return <TypeControl node={node} control={control} />;
    case "border":
      return <BorderControl node={node} control={control} />;
    case "item":
      return <ItemControl node={node} control={control} />;
    case "items":
      return <ItemsControl node={node} control={control} />;
    case "code":
      return (
        <Suspense fallback={null}>
          <CodeControl node={node} control={control} />
        </Suspense>
      );
    case "onSheet":
      return <p className="text-small text-ink-3">{control.label}</p>;
  }
}

/** Numbers and choices stand two to a line, everything else has a line of its own. */
export function Controls({
  node,
  controls,
  style = false,
}: {
  node: DocNode;
  controls: readonly Control[];
  /** Their values are style: each shows where it comes from. */
  style?: boolean;
}) {
  const half = (control: Control) => control.control === "number" || control.control === "choice";
  return (
    <div className="grid grid-cols-2 gap-2.5">
      {controls.map((control) => (
        <div
          // Controls come and go with their parts, and keep what is typed in them.
          key={"path" in control ? control.path.join(".") : control.label}
          data-field={"path" in control ? control.path.join(".") : undefined}
          className={half(control) ? "" : "col-span-2"}
        >
          {style && "path" in control ? (
            <Origin node={node} path={control.path}>
              <ControlView node={node} control={control} />
            </Origin>
          ) : (
            <ControlView node={node} control={control} />
          )}
        </div>
      ))}
    </div>
  );
}
