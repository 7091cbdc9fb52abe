/** Takes an erased address out of where it may stand among much else. */
import type { Services } from "../services.ts";
import { forgetInRefused, type RefusedPlace } from "../store/clean-up.ts";
import { inPieces } from "./pieces.ts";

export async function forget(services: Services, email: string): Promise<void> {
  const { database } = services;
  let place: RefusedPlace | null = { import: "", line: -1 };
  await inPieces(async (rows) => {
    if (place) place = await forgetInRefused(database.sql, email, place, rows);
    return place !== null;
  }, services);
}
