import { walk } from "../document/index.ts";
import type { Check } from "./check.ts";

export const postalAddress: Check = {
  id: "postal-address",
  run({ doc, surroundings: { brand } }) {
    if (brand.postalAddress.trim() === "") {
      return [
        {
          check: "postal-address",
          severity: "stop",
          message: "The sender has no postal address",
          detail: "Write it in the settings; the footer shows it.",
          at: "settings",
        },
      ];
    }
    const footers = [...walk(doc.root)].filter((node) => node.type === "footer");
    if (footers.some((footer) => footer.props.address === true)) return [];
    return [
      {
        check: "postal-address",
        severity: "stop",
        message: "The postal address is not shown",
        detail: footers.length
          ? "Switch it on in the footer."
          : "Add a footer, which shows the postal address.",
        at: footers[0]?.id ?? "email",
      },
    ];
  },
};
