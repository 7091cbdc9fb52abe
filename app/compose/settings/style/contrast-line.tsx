/** How well the words of a block can be read on their ground, as it is now. */
import type { DocNode } from "#core/document/index.ts";
import { useFindings } from "../../inspecting/findings.ts";

export function ContrastLine({ node }: { node: DocNode }) {
  const { inspection } = useFindings("inspection");
  const found = inspection?.contrasts[node.id];
  if (!found) return null;
  const enough = found.ratio >= found.needed;
  const ratio = `${Math.floor(found.ratio * 10) / 10} : 1`;
  return (
    <p
      role="status"
      data-contrast={ratio}
      className={`text-small ${enough ? "text-ink-2" : "font-semibold text-saffron-ink"}`}
    >
      Contrast {ratio} {enough ? "– easy to read" : `– hard to read; ${found.needed} : 1 is wanted`}
      {found.dark !== null && found.dark < found.needed && (
        <span className="block">In dark mail programs {Math.floor(found.dark * 10) / 10} : 1</span>
      )}
    </p>
  );
}
