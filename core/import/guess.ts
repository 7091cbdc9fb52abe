/** Where the columns of a file of people or records probably go. */
import {
  dateParts,
  type Fields,
  type FieldType,
  fieldIdFor,
  fold,
  isReserved,
  kindOf,
  MAIL_ADDRESS,
  OWN_READING,
  readDate,
} from "../fields/index.ts";
import type { ImportOptions, KeyTarget, Target } from "./options.ts";

/** The column's own name, without what spellings differ in. */
const plain = (name: string) => fold(name).replace(/[^a-z0-9]+/g, "");

/** What columns are called that hold what many call by another name. */
const ALIASES: Readonly<Record<string, readonly string[]>> = {
  email: [
    "email",
    "emailaddress",
    "mail",
    "mailaddress",
    "courriel",
    "adresseemail",
    "adressemail",
  ],
  first_name: ["firstname", "givenname", "forename", "prenom", "vorname"],
  last_name: ["lastname", "surname", "familyname", "nom", "nomdefamille", "nachname"],
  birthday: ["birthday", "dateofbirth", "birthdate", "born", "datedenaissance", "geburtstag"],
  language: ["language", "langue", "lang", "sprache"],
  country: ["country", "pays", "land"],
};

const RECORD_NAMES = ["name", "title", "nom", "titre", "bezeichnung"];

const share = (values: readonly string[], test: (value: string) => boolean) =>
  values.length === 0 ? 0 : values.filter(test).length / values.length;

/** A number as people write it: digits, or groups of three; not a phone number, which has groups of its own. */
const NUMBER = /^[+-]?(?:\d+|\d{1,3}(?:[ .,\u00a0\u202f]\d{3})+)(?:[.,]\d+)?$/;
/** Digits behind a plus, as many as a country and a subscriber have (ITU-T E.164). */
const PHONE = /^\+\d{8,15}$/;
const isNumber = (value: string) =>
  NUMBER.test(value) && !PHONE.test(value.replace(/\s/g, "")) && !/^0\d/.test(value);

/** The type that fits nearly all values of a column; text where none does. */
export function guessType(samples: readonly string[]): FieldType {
  const values = samples.map((value) => value.trim()).filter((value) => value !== "");
  if (values.length === 0) return "text";
  const reads = (type: FieldType) => (value: string) =>
    "value" in
    kindOf({ type }).parse(value, { id: "x", label: "", type }, { ...OWN_READING, dates: "dmy" });
  // Whether it is a day hangs on no century but for 29 February.
  const isDate = (value: string) =>
    readDate(value, "dmy", 2000) !== null || readDate(value, "mdy", 2000) !== null;
  if (share(values, isDate) === 1) return "date";
  if (share(values, (v) => /^(yes|no|true|false|oui|non|y|n)$/i.test(v)) === 1) return "yesNo";
  if (share(values, isNumber) === 1) return "number";
  if (share(values, (v) => /^https?:\/\//i.test(v)) === 1 && share(values, reads("web")) === 1) {
    return "web";
  }
  if (share(values, reads("zone")) === 1) return "zone";
  if (share(values, reads("place")) === 1) return "place";
  const distinct = new Set(values.map(fold)).size;
  return values.length >= 20 && distinct <= 8 ? "choice" : "text";
}

/** Which column holds the names of records: one called so, or else the first with anything in it. */
function nameColumn(names: readonly string[], samples: readonly (readonly string[])[]): number {
  const named = names.findIndex((name) => RECORD_NAMES.includes(plain(name)));
  return named >= 0
    ? named
    : samples.findIndex((column) => column.some((value) => value.trim() !== ""));
}

/** Which column holds mail addresses: one called so, or else the one with the most of them. */
function addressColumn(
  names: readonly string[],
  samples: readonly (readonly string[])[],
  known: ReadonlyMap<string, string>,
): number {
  const addresses = names.map((_, i) =>
    share(samples[i]!.filter(Boolean), (v) => MAIL_ADDRESS.test(v.trim())),
  );
  const named = names.findIndex(
    (name, i) => known.get(plain(name)) === "email" && addresses[i]! > 0,
  );
  return named >= 0 ? named : addresses.indexOf(Math.max(0.5, ...addresses));
}

/** Where each column goes: to a field of the same name, to what rows are known by, or to a new field. */
export function guessTargets(
  names: readonly string[],
  samples: readonly (readonly string[])[],
  fields: Fields,
  key: KeyTarget = "email",
): Target[] {
  const used = new Set<string>();
  const take = (id: string) => !used.has(id) && used.add(id);
  const known = new Map<string, string>();
  for (const field of fields.values()) {
    known.set(plain(field.label), field.id);
    known.set(plain(field.id), field.id);
  }
  for (const [id, aliases] of Object.entries(ALIASES)) {
    if (id !== "email" && !fields.has(id)) continue;
    for (const alias of aliases) if (!known.has(alias)) known.set(alias, id);
  }
  const keyAt = key === "email" ? addressColumn(names, samples, known) : nameColumn(names, samples);
  return names.map((name, i): Target => {
    if (i === keyAt) return { to: key };
    const field = known.get(plain(name));
    if (field && field !== "email" && take(field)) return { to: "field", field };
    if (samples[i]!.every((value) => value.trim() === "")) return { to: "skip" };
    const id = fieldIdFor(
      name || `column ${i + 1}`,
      (one) => isReserved(one) || fields.has(one) || used.has(one),
    );
    used.add(id);
    const type = guessType(samples[i]!);
    return {
      to: "new",
      field: id,
      label: name || `Column ${i + 1}`,
      type: type === "record" ? "text" : type,
    };
  });
}

/**
 * Where columns went that were chosen earlier, by the fields there are now: a new field of then is there meanwhile,
 * and what went to a field that is gone goes where it is `guessed` to, as long as nothing else goes there.
 */
export function targetsNow(
  chosen: readonly Target[],
  guessed: readonly Target[],
  fields: Fields,
): Target[] {
  const now = chosen.map((target): Target | null => {
    if (target.to === "new" && fields.has(target.field)) {
      const { field, dates } = target;
      return { to: "field", field, ...(dates && { dates }) };
    }
    return target.to === "field" && !fields.has(target.field) ? null : target;
  });
  const used = new Set(now.flatMap((one) => (one && "field" in one ? one.field : [])));
  return now.map((one, i) => {
    const guess = guessed[i]!;
    return one ?? ("field" in guess && !used.has(guess.field) ? guess : { to: "skip" });
  });
}

/**
 * In which order the dates of some columns are written: known from any that can be read in one way only; null
 * where all of them can be read in two, which has to be asked.
 */
export function dateOrder(samples: readonly (readonly string[])[]): ImportOptions["dates"] {
  let [dmy, mdy, seen] = [false, false, false];
  for (const value of samples.flat()) {
    const parts = dateParts(value);
    if (!parts || parts[0] > 31) continue;
    seen = true;
    if (parts[0] > 12) dmy = true;
    if (parts[1] > 12) mdy = true;
  }
  if (!seen) return "ymd";
  if (dmy === mdy) return null;
  return dmy ? "dmy" : "mdy";
}

/** A comma is the decimal mark where digits in other than threes follow it. */
export function decimalMark(samples: readonly (readonly string[])[]): "." | "," {
  const values = samples.flat();
  const commas = values.filter((v) =>
    /^[+-]?\d+,\d{1,2}$|^[+-]?\d{1,3}(\.\d{3})+,\d+$/.test(v.trim()),
  );
  const dots = values.filter((v) => /^[+-]?\d+\.\d{1,2}$/.test(v.trim()));
  return commas.length > dots.length ? "," : ".";
}
