/** What the bar over a scheduled campaign's draft and the server say to each other. */
import type { DraftState } from "#server/campaigns/draft.ts";

export interface DraftAnswer {
  /** Null where nothing is scheduled. */
  readonly draft: DraftState | null;
  /** Why something could not be done. */
  readonly message: string | null;
  /** The campaign that was made of changes left over. */
  readonly campaign: string | null;
}
export type { DraftState };
