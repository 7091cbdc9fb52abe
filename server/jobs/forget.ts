/** Takes an erased address out of where it may stand among much else. */
import type { Services } from "../services.ts";
import { forgetInRefused, type RefusedPlace } from "../store/clean-up.ts";
import { inPieces } from "./pieces.ts";

export async function forget(services: Services, email: string): Promise<void> {
  let place: RefusedPlace = { import: "", line: -1 };
  await inPieces(services, async (sql, rows) => {
    const next = await forgetInRefused(sql, email, place, rows);
    if (next) place = next;
    return next !== null;
  });
}
