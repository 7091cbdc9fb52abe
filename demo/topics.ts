/** What the garden's readers can choose, its sign-up forms, and who has chosen. */

import { chance } from "#core/random.ts";
import type { Sql } from "#server/db/database.ts";
import { jsonb } from "#server/db/values.ts";
import { saveForm } from "#server/store/signups.ts";
import { addTopic } from "#server/store/topics.ts";

const TOPICS = [
  {
    name: { en: "News from the garden", fr: "Nouvelles du jardin" },
    about: {
      en: "Once a month: what flowers, what is on.",
      fr: "Une fois par mois : ce qui fleurit, ce qui se passe.",
    },
  },
  {
    name: { en: "Workshops and walks", fr: "Ateliers et promenades" },
    about: { en: "Dates, and places that are left.", fr: "Les dates, et les places qui restent." },
  },
  {
    name: { en: "The seed shop", fr: "La boutique de graines" },
    about: { en: "New seeds, twice a season.", fr: "Les nouvelles graines, deux fois par saison." },
  },
] as const;

/** Makes topics, forms, and the choices and consents of some. Gives the topics' ids in order. */
export async function seedTopics(sql: Sql, newsletter: string, now: Date): Promise<string[]> {
  const ids: string[] = [];
  for (const { name, about } of TOPICS) ids.push(await addTopic(sql, name, about, now));
  const shared = { list: newsletter, fields: ["first_name", "interests"], topics: ids };
  const wording = {
    en: "I would like emails from Larkmoor Botanic Garden, and can leave at any time.",
    fr: "Je souhaite recevoir les messages du jardin de Larkmoor, et peux partir à tout moment.",
  };
  await saveForm(
    sql,
    null,
    {
      ...shared,
      name: "Website",
      language: "en",
      title: "Letters from the garden",
      wording: wording.en,
    },
    now,
  );
  await saveForm(
    sql,
    null,
    {
      ...shared,
      name: "Website, French",
      language: "fr",
      title: "Des lettres du jardin",
      wording: wording.fr,
    },
    now,
  );
  const luck = chance(61);
  const people = await sql<{ id: number; at: Date; language: string }>`
    select id, created_at as at, f_language as language from contacts order by id`;
  const consents = people.flatMap(({ id, at, language }) =>
    luck.is(0.8)
      ? [{ contact: id, at, wording: language === "French" ? wording.fr : wording.en }]
      : [],
  );
  await sql`insert into consents (contact_id, given, source, wording, at)
    select r.contact, true, 'sign-up form “Website”', r.wording, r.at
    from jsonb_to_recordset(${jsonb(consents)})
      as r(contact bigint, wording text, at timestamptz)`;
  const choices = people.flatMap(({ id }) =>
    ids.flatMap((topic, i) => (luck.is(0.02 + 0.04 * i) ? [{ contact: id, topic }] : [])),
  );
  await sql`insert into topic_choices (contact_id, topic_id, wants, at)
    select r.contact, r.topic, false, ${now}
    from jsonb_to_recordset(${jsonb(choices)}) as r(contact bigint, topic text)`;
  return ids;
}
