/** That somebody has looked at a version, in the state it is in. */
import { useRevalidator } from "react-router";
import type { Sight } from "#server/campaigns/sights.ts";
import { ask, wordsOf } from "../ask.ts";
import { Checkbox } from "../ui/checkbox.tsx";
import { useToast } from "../ui/toast.tsx";
import type { Sights } from "./sights.ts";

/** Tells the server; what is ready is counted again. */
export function useLooked(campaign: string, sights: Sights) {
  const { revalidate } = useRevalidator();
  const say = useToast();
  return async (sight: Sight, looked: boolean) => {
    sights.put(sight.contact, { looked });
    const reply = await ask(`/campaigns/${campaign}/sights`, {
      json: { states: [sight.state], looked },
    });
    if (reply.kind === "ok") return revalidate();
    sights.put(sight.contact, { looked: !looked });
    say(wordsOf(reply, "This could not be kept."));
  };
}

export function LookedAt({
  campaign,
  sights,
  sight,
}: {
  campaign: string;
  sights: Sights;
  sight: Sight;
}) {
  const tell = useLooked(campaign, sights);
  return (
    <Checkbox
      label="Looked at"
      className="text-small text-ink-2"
      checked={sight.looked}
      onChange={(event) => void tell(sight, event.currentTarget.checked)}
    />
  );
}
