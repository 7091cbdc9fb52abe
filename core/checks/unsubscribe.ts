import { nodeKind } from "../blocks/index.ts";
import { type Check, readersIn } from "./check.ts";
import { coveredAlways, neverSeen } from "./cover.ts";

/** Every marketing email needs a way out that works, for everybody (RFC 8058 asks for one in the body as well). */
export const unsubscribe: Check = {
  id: "unsubscribe",
  run({ mentions, nodes, readers }) {
    const ways = [
      ...mentions.filter((one) => one.what === "link" && one.to.kind === "unsubscribe"),
      ...nodes.filter(({ node }) =>
        nodeKind(node.type)?.leads?.(node.props).includes("unsubscribe"),
      ),
    ];
    const at = ways[0]?.node.id ?? "email";
    const stop = (message: string, detail: string) => [
      { check: "unsubscribe", severity: "stop" as const, message, detail, at },
    ];
    if (ways.length === 0) {
      return stop(
        "There is no unsubscribe link",
        "Add a footer, or switch its unsubscribe link on.",
      );
    }
    const missing = coveredAlways(ways);
    if (missing === null) return [];
    const count = neverSeen(ways, readers);
    return missing === "width"
      ? stop(
          "The unsubscribe link shows at one width only",
          "Show it on wide and on narrow: every reader needs it.",
        )
      : stop(
          "Not everybody gets an unsubscribe link",
          count > 0
            ? `${readersIn(count)} would get none. Show it to all, or give its alternatives a last one for everybody else.`
            : "Show it to all, or give its alternatives a last one for everybody else.",
        );
  },
};
