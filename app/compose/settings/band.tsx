/** Settings of a band: its name and columns, style, spacing. */
import { type BandProps, bandControls } from "#core/blocks/layout.ts";
import type { DocNode } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { Field, INPUT } from "../../ui/field.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Segmented } from "../../ui/segmented.tsx";
import { type ColumnMemory, setColumns } from "../doing/actions.ts";
import {
  equalShares,
  LEAST_SHARE,
  setShares,
  sharesOf,
  withShare,
} from "../doing/column-widths.ts";
import { useCommands } from "../doing/commands.ts";
import { useReading } from "../reading/reading.ts";
import { SeenSection } from "../who/seen-section.tsx";
import { Controls } from "./controls/index.tsx";
import { PaddingFields, Section, Shown } from "./parts.tsx";

/** While the page stands, columns that are given back keep their blocks where they were. */
const COLUMNS: ColumnMemory = new Map();

export function BandSettings({ node }: { node: DocNode }) {
  const { doc } = useReading("doc");
  const { edit } = useCommands();
  const props = node.props as unknown as BandProps;
  const shares = sharesOf(node);
  return (
    <>
      <Section title="Content">
        <Field label="Name">
          {(ids) => (
            <input
              {...ids}
              key={`${node.id}${props.name}`}
              defaultValue={props.name}
              maxLength={LIMITS.nameLength}
              className={INPUT}
              onBlur={(event) => {
                const value = event.target.value.trim();
                if (value !== props.name)
                  edit({ type: "set", node: node.id, path: ["name"], value });
              }}
            />
          )}
        </Field>
        <div className="flex items-center justify-between">
          <span className="text-small text-ink-2">Columns</span>
          <Segmented
            label="Columns"
            value={String(node.children.length)}
            options={["1", "2", "3", "4"].map((value) => ({ value, label: value }))}
            onChange={(value) => {
              const change = setColumns(doc, node.id, Number(value), COLUMNS);
              if (change) edit(change);
            }}
          />
        </div>
        {node.children.length > 1 && (
          <div>
            <div className="mb-1 flex items-center justify-between text-small text-ink-2">
              <span>Widths, %</span>
              <button
                type="button"
                className="link text-small disabled:text-ink-3"
                disabled={shares.every((share) => Math.abs(share - shares[0]!) <= 1)}
                onClick={() => edit(setShares(node, equalShares(shares.length)))}
              >
                Make them equal
              </button>
            </div>
            <div className="grid grid-cols-4 gap-1.5">
              {node.children.map((column, i) => (
                <NumberField
                  key={column.id}
                  label={`Column ${i + 1}`}
                  value={shares[i]!}
                  min={LEAST_SHARE}
                  max={100 - LEAST_SHARE * (shares.length - 1)}
                  onValue={(value) =>
                    value !== null && edit(setShares(node, withShare(shares, i, value)))
                  }
                />
              ))}
            </div>
            <p className="mt-1 text-small text-ink-3">Or drag the line between two columns.</p>
          </div>
        )}
      </Section>
      <Section title="Style">
        <Controls node={node} controls={bandControls} />
      </Section>
      <Section title="Spacing">
        <PaddingFields node={node} path={["padding"]} value={props.padding} label="Inside" />
        <PaddingFields node={node} path={["outer"]} value={props.outer} label="Outside" />
      </Section>
      <Shown node={node} />
      <SeenSection node={node} />
    </>
  );
}
