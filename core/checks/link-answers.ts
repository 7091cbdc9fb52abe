/** What was answered where links lead: somebody has asked there. */
import type { Finding, LinkAnswer } from "../kinds/kind.ts";
import { type Check, placeOf } from "./check.ts";
import { hostOf, isSameSite, linksIn, plainAddress, readdress } from "./link-addresses.ts";

/** Once is usual (`http:` to `https:`, a slash at the end). */
const OFTEN = 2;

type Told = Pick<Finding, "severity" | "message" | "detail">;

function told(address: string, { problem, gone, ledTo, redirects }: LinkAnswer): Told | null {
  if (problem && gone) {
    return {
      severity: "look",
      message: "A link leads to nothing",
      detail: `${address}: ${problem}`,
    };
  }
  if (problem) {
    return {
      severity: "hint",
      message: "A link could not be tried",
      detail: `${address}: ${problem}`,
    };
  }
  const [from, to] = [hostOf(address), hostOf(ledTo ?? "")];
  if (from && to && !isSameSite(from, to)) {
    const detail = "Filters look at where a link ends; readers may not expect it.";
    return { severity: "hint", message: `A link to ${from} ends at ${to}`, detail };
  }
  if (redirects < OFTEN) return null;
  const detail = `“${address}” ends at ${ledTo}: each step takes readers a moment.`;
  return { severity: "hint", message: `A link leads on ${redirects} times`, detail };
}

export const answered: Check = {
  id: "link-answer",
  run: (input) =>
    linksIn(input).flatMap((mention) => {
      const address = plainAddress(mention);
      const answer = address === null ? undefined : input.surroundings.linkAnswers?.get(address);
      const found = address !== null && answer ? told(address, answer) : null;
      if (!found) return [];
      const end = answer?.problem === null ? answer.ledTo : null;
      return [
        {
          check: "link-answer",
          ...found,
          at: placeOf(mention.node),
          in: mention.path,
          mends: end === null ? [] : readdress(mention, end),
        },
      ];
    }),
};
