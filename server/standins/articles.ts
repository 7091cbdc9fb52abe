/** What the stand-ins write about, over and over with the year: a title, a sentence or two, a category. */
export interface Article {
  readonly title: string;
  readonly summary: string;
  readonly category: string;
  readonly author: string;
}

const article = (title: string, category: string, author: string, summary: string): Article => ({
  title,
  category,
  author,
  summary,
});

/** The gardeners' notebook. */
export const NOTEBOOK: readonly Article[] = [
  article(
    "What frost does for parsnips",
    "Vegetables",
    "Ines Orchard",
    "A few cold nights turn their starch to sugar. Leave them in until the ground lets you have them.",
  ),
  article(
    "Pruning by the moon, tested",
    "Orchard",
    "Tom Vale",
    "Two rows of apples, two calendars, three years. The trees did not read either.",
  ),
  article(
    "A bed that needs no digging",
    "Soil",
    "Ines Orchard",
    "Cardboard, compost, patience: what stood there in spring, and what the worms had done by autumn.",
  ),
  article(
    "Leeks in a dry year",
    "Vegetables",
    "Mara Field",
    "Deep holes, one good watering, and a collar of straw. They came through; the hose stayed where it was.",
  ),
  article(
    "Seed that keeps, seed that does not",
    "Seeds",
    "Tom Vale",
    "Tomatoes for eight years, parsnips for one. A list to pin up inside the cupboard door.",
  ),
  article(
    "The hedge that feeds the birds",
    "Wildlife",
    "Mara Field",
    "Hawthorn, spindle and dog rose along the north side, and who came to look in the first winter.",
  ),
  article(
    "Compost that smells of nothing",
    "Soil",
    "Ines Orchard",
    "If it smells, it is wet. Two forks of leaves for one of kitchen peelings, and turn it when you think of it.",
  ),
  article(
    "Sowing under glass",
    "Seeds",
    "Tom Vale",
    "An old window on four bricks is three weeks of spring. What we sow first, and what we wish we had not.",
  ),
  article(
    "A pond the size of a tub",
    "Wildlife",
    "Mara Field",
    "Rainwater, one stone above the surface, and no fish. There were newts by June.",
  ),
  article(
    "Old apples with new names",
    "Orchard",
    "Tom Vale",
    "Five trees nobody could name went to the show. Four came back with a label, and one with a riddle.",
  ),
  article(
    "Garlic the lazy way",
    "Vegetables",
    "Ines Orchard",
    "Push a clove in before the shortest day, and do not look at it again until the longest.",
  ),
  article(
    "Mulch, and when to leave it off",
    "Soil",
    "Mara Field",
    "Good against weeds and thirst, and very good for slugs: why the lettuce stands bare.",
  ),
];

/** Walks and workshops: what is to be announced. */
export const WALKS: readonly Article[] = [
  article(
    "Fungi by torchlight",
    "Walks",
    "Walks desk",
    "Two slow hours along the beech path. Bring a lamp and a warm coat; we bring the soup.",
  ),
  article(
    "Grafting for beginners",
    "Workshops",
    "Walks desk",
    "Everybody takes a tree home. Knives and rootstock are there; fingers are your own.",
  ),
  article(
    "Bats over the millpond",
    "Walks",
    "Walks desk",
    "We lend a detector to every second person, and the rest may listen along.",
  ),
  article(
    "Willow baskets in a day",
    "Workshops",
    "Walks desk",
    "Start after breakfast, carry it home for tea. No basket has ever looked like the drawing.",
  ),
  article(
    "The dawn chorus",
    "Walks",
    "Walks desk",
    "It begins at an hour that nobody will believe, and is over before anybody else is up.",
  ),
  article(
    "Dyeing with what grows here",
    "Workshops",
    "Walks desk",
    "Walnut, madder and onion skins, and three pots to stir.",
  ),
  article(
    "A winter tree walk",
    "Walks",
    "Walks desk",
    "Bark, buds and outlines: how to know a tree with nothing on.",
  ),
];

/** From the seed bench: news of the shop. */
export const BENCH: readonly Article[] = [
  article(
    "New on the bench: a pea for small pots",
    "Seeds",
    "Seed bench",
    "Knee high, sweet, and not in a hurry. We have grown it on three window sills.",
  ),
  article(
    "Broad beans are cleaned and packed",
    "Seeds",
    "Seed bench",
    "A good year: they are large, and there are enough for everybody who asks before spring.",
  ),
  article(
    "Why there are no leeks this month",
    "News",
    "Seed bench",
    "They did not germinate as they should, so we do not sell them. New seed comes in a few weeks.",
  ),
  article(
    "Packets without a window",
    "News",
    "Seed bench",
    "The new ones are paper through and through. You cannot see the seed; the compost heap thanks you.",
  ),
  article(
    "A lettuce that stands the heat",
    "Seeds",
    "Seed bench",
    "It bolted two weeks after all the others in the trial bed, and tasted better the longer it stood.",
  ),
];
