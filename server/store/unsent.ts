/** Whether campaigns have gone out. An email of a variant's own goes with the campaign that it belongs to. */
import { fragment } from "#core/rules/index.ts";

/** Of a campaign `k`: it is there, and has not been sent. */
export const UNSENT = fragment`(k.deleted_at is null and not exists (select 1 from launches l
  where l.campaign_id = coalesce(k.variant_of, k.id) and l.state = 'done'))`;

/** Of a campaign `k`: it stays as it is until its launch is over or called back. */
export const ON_ITS_WAY = fragment`exists (select 1 from launches l
  where l.campaign_id = coalesce(k.variant_of, k.id) and l.state in ('scheduled', 'sending', 'paused'))`;
