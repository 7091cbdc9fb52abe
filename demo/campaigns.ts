/** The campaigns of the demo: three years that have gone out, three to come, four being written. */
import type { DateTime } from "luxon";
import type { EmailDocument } from "#core/document/index.ts";
import { calmNewsletter } from "#core/templates/calm-newsletter.ts";
import { surroundings } from "#server/campaigns/emails.ts";
import type { Services } from "#server/services.ts";
import { archiveCampaign, createCampaign } from "#server/store/campaigns.ts";
import { enqueue } from "#server/store/jobs.ts";
import { setLabels } from "#server/store/labels.ts";
import { createLaunch } from "#server/store/launches/freeze.ts";
import { setTopic } from "#server/store/topics.ts";
import {
  type Announced,
  announcement,
  type DemoPictures,
  earlierNewsletter,
  inFlower,
  monthlyNewsletter,
  notebook,
  seedList,
} from "./emails/index.ts";
import { writeActivity, writeHistory } from "./history.ts";

const EARLIER = [
  "Snowdrops and a mild winter",
  "The walled garden in May",
  "Roses, and what eats them",
  "Apples from six orchards",
  "Hellebores in the frost",
  "Bluebells along the brook",
  "High summer on the hill",
  "Bulbs to plant now",
  "Under glass in January",
  "Tulips, planted by the volunteers",
  "Shade for a hot July",
] as const;

/** How many of them, from the first, have been put aside. */
const ARCHIVED = 5;

const LATE: Announced = {
  subject: "Open until nine on Thursdays",
  preview: "Lanterns along the brook, and soup in the glasshouse.",
  title: "Evenings in the garden",
  words:
    "From next week the gates stay open until nine on Thursdays. The lanterns are lit at dusk.",
  button: "See the evenings",
  to: "https://larkmoor.example/evenings",
  picture: "brook-walk",
  alt: "The path along the brook at dusk",
};
const SEEDS: Announced = {
  subject: "Seeds for a wet spring",
  preview: "Six kinds that do not mind.",
  title: "Six kinds that like it wet",
  words: "It has rained for three weeks. These six have been sown in worse, and came up.",
  button: "Order a packet",
  to: "https://larkmoor.example/seeds/wet",
  picture: "seed-packets",
  alt: "Three seed packets: plum, green and gold",
};
/** Nobody has said yet where its button leads. */
const VOLUNTEERS: Announced = {
  subject: "A week for the volunteers",
  preview: "",
  title: "Thank you, all of you",
  words:
    "In June the garden is yours for a week: walks, a lunch, and the first look at the new border.",
  button: "Say that you come",
};

interface Surrounds {
  readonly now: Date;
  /** The same in the garden’s zone. */
  readonly local: DateTime;
  readonly member: string;
  readonly pictures: DemoPictures;
  /** A roll of codes. */
  readonly roll: string;
  readonly lists: Readonly<Record<"newsletter" | "friends" | "volunteers", string>>;
  readonly topic: string;
}

export async function seedCampaigns(
  { database, config }: Pick<Services, "database" | "config">,
  { now, local, member, pictures, roll, lists, topic }: Surrounds,
): Promise<void> {
  const { sql } = database;
  const zone = local.zoneName!;
  const nine = (day: DateTime) =>
    day.set({ hour: 9, minute: 0, second: 0, millisecond: 0 }).toJSDate();
  const to = (id: string) => ({ include: [{ kind: "list" as const, id }], exclude: [] });
  const launched = async (
    name: string,
    doc: EmailDocument,
    { list, begun, sendAt, at }: { list: string; begun: Date; sendAt: Date; at: Date },
  ) => {
    const campaignId = await createCampaign(sql, name, doc, begun, to(list));
    const launch = await createLaunch(
      sql,
      {
        campaignId,
        name,
        sendAt,
        zone,
        seq: 0,
        doc,
        audience: to(list),
        segments: [],
        surroundings: await surroundings(sql, config, doc, at, campaignId),
        member,
      },
      at,
    );
    return { campaignId, launch };
  };

  const gone = async (name: string, doc: EmailDocument, sendAt: Date, labels: string[]) => {
    const when = { list: lists.newsletter, begun: sendAt, sendAt, at: sendAt };
    const { campaignId, launch } = await launched(name, doc, when);
    await sql`update launches set started_at = ${sendAt} where id = ${launch}`;
    await writeHistory(sql, launch, sendAt, 3, now);
    await sql`update launches set state = 'done', finished_at = ${sendAt} where id = ${launch}`;
    await setLabels(sql, campaignId, labels);
    return campaignId;
  };
  for (const [i, subject] of EARLIER.entries()) {
    const sentAt = nine(local.minus({ months: 3 * (EARLIER.length - i), days: 12 }));
    const id = await gone(subject, earlierNewsletter(pictures, subject), sentAt, ["Season"]);
    if (i < ARCHIVED) await archiveCampaign(sql, id, now);
  }
  const list = seedList(pictures);
  await gone("Seed list for the season", list, nine(local.minus({ days: 12 })), ["Shop"]);
  await writeActivity(sql, now);

  const coming = async (
    name: string,
    doc: EmailDocument,
    days: number,
    own: string,
    label: string,
  ) => {
    const sendAt = nine(local.plus({ days }));
    const begun = local.minus({ days: 1, hours: days }).toJSDate();
    const { campaignId, launch } = await launched(name, doc, { list: own, begun, sendAt, at: now });
    await setLabels(sql, campaignId, [label]);
    await enqueue(sql, "launch", { launch }, sendAt);
  };
  await coming("The gardeners’ notebook", notebook(pictures), 2, lists.friends, "Friends");
  await coming("Late on Thursdays", announcement(pictures, LATE), 6, lists.newsletter, "Season");
  await coming(
    "Seeds for a wet spring",
    announcement(pictures, SEEDS),
    13,
    lists.newsletter,
    "Shop",
  );

  const draft = async (name: string, doc: EmailDocument, hours: number, own?: string) => {
    const begun = local.minus({ hours }).toJSDate();
    return createCampaign(sql, name, doc, begun, own ? to(own) : undefined);
  };
  await draft("Autumn, an idea", calmNewsletter(), 70);
  const volunteers = announcement(pictures, VOLUNTEERS);
  await draft("A week for the volunteers", volunteers, 46, lists.volunteers);
  const seasons = inFlower(pictures);
  await setLabels(sql, await draft("In flower this week", seasons, 21, lists.newsletter), [
    "Season",
  ]);
  const month = local.plus({ days: 7 }).setLocale("en-GB").toFormat("LLLL");
  const monthly = await draft(
    `${month} at Larkmoor`,
    monthlyNewsletter(pictures, month, roll),
    0,
    lists.newsletter,
  );
  await setTopic(sql, monthly, topic);
}
