/** Keys that tests sign mail with: making some for each of them would take its time. */
import keys from "../../fixtures/mail-keys.json" with { type: "json" };
import { mailKeys } from "../mail/keys.ts";

export const TEST_KEY_FILE = keys;
export const TEST_MAIL_KEYS = mailKeys(keys);
