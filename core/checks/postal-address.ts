import { footer } from "../blocks/footer.ts";
import type { Finding } from "../kinds/kind.ts";
import { type Check, readersIn } from "./check.ts";
import { coveredAlways, neverSeen } from "./cover.ts";

/** Who sends it and where they are must stand in what everybody gets. */
export const postalAddress: Check = {
  id: "postal-address",
  run({ nodes, readers, surroundings: { brand } }) {
    const stop = (message: string, detail: string, at: string, field?: string): Finding[] => [
      {
        check: "postal-address",
        severity: "stop",
        message,
        detail,
        at,
        ...(field && { in: [field] }),
      },
    ];
    if (brand.postalAddress.trim() === "") {
      return stop(
        "The sender has no postal address",
        "Write it in the settings; the footer shows it.",
        "settings",
      );
    }
    const footers = nodes.filter(({ node }) => node.type === footer.type);
    const showing = footers.filter(({ node }) => node.props.address === true);
    if (showing.length === 0) {
      return stop(
        "The postal address is not shown",
        footers.length
          ? "Switch it on in the footer."
          : "Add a footer, which shows the postal address.",
        footers[0]?.node.id ?? "email",
        "address",
      );
    }
    const missing = coveredAlways(showing);
    if (missing === null) return [];
    const count = neverSeen(showing, readers);
    const at = showing[0]!.node.id;
    return missing === "width"
      ? stop("The postal address shows at one width only", "Show it on wide and on narrow.", at)
      : stop(
          "Not everybody sees the postal address",
          count > 0 ? `${readersIn(count)} would not. Show it to all.` : "Show it to all.",
          at,
        );
  },
};
