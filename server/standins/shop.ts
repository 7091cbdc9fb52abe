/** A shop that ships with the application: products with pictures, whose stock and prices change over its own time. */
import Papa from "papaparse";
import sharp from "sharp";
import { escapeHtml } from "#core/markup/index.ts";
import type { StandIn, StandInAnswer } from "../fetching/fetcher.ts";

const DAY = 86_400_000;
export const SHOP_HOST = "shop.larkmoor.example";
const HOME = `https://${SHOP_HOST}/`;

type Goods = readonly [key: string, title: string, category: string, price: number, about: string];

/** What the shop sells. */
export const GOODS: readonly Goods[] = [
  [
    "foxglove-seed",
    "Foxglove seed",
    "Seeds",
    2.4,
    "Sow in early summer, wait a year, and be patient with the first leaves.",
  ],
  [
    "meadow-mix",
    "Meadow mix",
    "Seeds",
    6.8,
    "Twenty-two flowers and four grasses for poor ground.",
  ],
  [
    "sweet-pea",
    "Sweet pea seed",
    "Seeds",
    2.6,
    "Seven colours. Soak overnight, and pick them often.",
  ],
  [
    "winter-lettuce",
    "Winter lettuce",
    "Seeds",
    2.4,
    "Stands the frost under a fleece, and is ready when nothing else is.",
  ],
  [
    "broad-bean",
    "Broad bean, tall",
    "Seeds",
    2.8,
    "Sown in November they are ahead of the blackfly.",
  ],
  [
    "parsnip",
    "Parsnip, long",
    "Seeds",
    2.1,
    "Fresh seed every year: last year’s does not come up.",
  ],
  ["leek-blue", "Leek, blue", "Seeds", 1.95, "Slow and sure; blue until spring."],
  ["chard-rainbow", "Chard, rainbow", "Seeds", 2.3, "For the eye as much as for the pot."],
  [
    "garlic-hardneck",
    "Garlic, hardneck",
    "Seeds",
    4.2,
    "Six cloves to a bulb, planted before the shortest day.",
  ],
  ["early-pea", "Pea, early", "Seeds", 2.5, "Knee high, sweet, and first in the basket."],
  ["hand-fork", "Hand fork", "Tools", 18.5, "Ash and steel, made two villages away."],
  ["dibber", "Ash dibber", "Tools", 12, "Marked by the inch, so that leeks stand to attention."],
  ["pruning-knife", "Pruning knife", "Tools", 34, "Folds into a pocket and takes an edge."],
  [
    "watering-can",
    "Watering can, 9 litres",
    "Tools",
    42,
    "Galvanised, with a brass rose that points up or down.",
  ],
  ["twine", "Jute twine, 100 m", "Tools", 4.6, "Green, soft, and gone by next winter."],
  ["seed-labels", "Slate labels, ten", "Tools", 9.5, "Write with chalk, or with a nail for good."],
  [
    "notebook-1",
    "The gardeners’ notebook, bound",
    "Books",
    21,
    "Three years of the notebook on paper, with room to answer back.",
  ],
  [
    "hedge-book",
    "A hedge and what lives in it",
    "Books",
    16.5,
    "Forty drawings and a map of two hundred yards.",
  ],
  ["pots-book", "Growing in pots", "Books", 14, "What to do with a window sill."],
  ["grafting", "Grafting workshop", "Workshops", 45, "A morning, a knife and a tree to take home."],
  ["pruning", "Pruning workshop", "Workshops", 38, "In the old orchard, whatever the weather."],
  [
    "willow",
    "Willow basket in a day",
    "Workshops",
    60,
    "From rods to a basket between breakfast and tea.",
  ],
  ["tea-towel", "Tea towel, herb bed", "Gifts", 11, "Printed from the north bed in July."],
  ["seed-tin", "Seed tin", "Gifts", 15.5, "Keeps a year of packets dry, and in order."],
];

/** A number from two others that looks like chance and is the same every time. */
const mixed = (a: number, b: number, most: number): number =>
  Math.floor(((Math.sin(a * 127.1 + b * 311.7) * 43_758.5453) % 1) * 1000 + 1000) % most;

/** What a product costs on a day of the shop, and how many there are. */
function offerOn(index: number, day: number) {
  const [, , category, price] = GOODS[index]!;
  const inSale = mixed(index, Math.floor(day / 7), 5) === 0;
  const sale = inSale ? Math.round(price * 75) / 100 : null;
  // Workshops have no stock; everything else runs low and comes in again.
  const stock =
    category === "Workshops"
      ? null
      : Math.max(0, mixed(index, 1, 90) + 8 - ((day + index * 3) % 14) * 4);
  return { price, sale_price: sale, currency: "GBP", stock };
}

const GROUNDS = ["#f1e1c4", "#dfe6d5", "#e7d7e0", "#d8e4ea", "#efe0d3", "#e3e6d0"];
const INKS = ["#8a6a2f", "#5d7a4a", "#84506c", "#4f7086", "#8b5b43", "#6f7640"];

/** A picture of a product: a shape on a ground, never two alike. */
function pictureOf(index: number): Promise<Buffer> {
  const ground = GROUNDS[index % GROUNDS.length]!;
  const ink = INKS[(index * 5 + 2) % INKS.length]!;
  const leaves = Array.from({ length: 3 + (index % 4) }, (_, i) => {
    const turn = -60 + (i * 120) / (2 + (index % 4)) + mixed(index, i, 14);
    return `<ellipse cx="400" cy="330" rx="${46 + mixed(index, i + 3, 40)}" ry="${170 + mixed(index, i + 7, 60)}" fill="${ink}" fill-opacity="${0.35 + i * 0.09}" transform="rotate(${turn} 400 520)"/>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="800" height="800"><rect width="800" height="800" fill="${ground}"/>${leaves.join("")}<rect x="396" y="430" width="8" height="250" fill="${ink}"/><ellipse cx="400" cy="690" rx="${120 + mixed(index, 2, 60)}" ry="18" fill="${ink}" fill-opacity=".25"/></svg>`;
  return sharp(Buffer.from(svg)).png({ palette: true }).toBuffer();
}

const productsOn = (day: number) =>
  GOODS.map(([key, title, category, , description], i) => ({
    id: key,
    title,
    category,
    description,
    link: `${HOME}${key}`,
    image: `${HOME}pictures/${key}.png`,
    ...offerOn(i, day),
  }));

async function answer(path: string, now: Date): Promise<StandInAnswer | null> {
  const day = Math.floor(now.getTime() / DAY);
  if (path === "/products.json") {
    const body = JSON.stringify({ title: "Seed shop", products: productsOn(day) });
    return { contentType: "application/json", body, etag: `"${day}"` };
  }
  if (path === "/stock.csv") {
    const rows = productsOn(day).map(({ id, price, sale_price, currency, stock }) => ({
      ...{ id, price, sale_price: sale_price ?? "", currency, stock: stock ?? "" },
    }));
    return { contentType: "text/csv; charset=utf-8", body: Papa.unparse(rows) };
  }
  if (path === "/") {
    const list = GOODS.map(([key, title]) => `<li><a href="/${key}">${escapeHtml(title)}</a></li>`);
    return page("The seed shop", `<ul>${list.join("")}</ul>`);
  }
  const picture = /^\/pictures\/([a-z0-9-]+)\.png$/.exec(path)?.[1];
  const index = GOODS.findIndex(([key]) => key === (picture ?? path.slice(1)));
  if (index < 0) return null;
  if (picture) return { contentType: "image/png", body: await pictureOf(index) };
  const [, title, , , about] = GOODS[index]!;
  return page(title, `<p>${escapeHtml(about)}</p>`);
}

const page = (title: string, inner: string): StandInAnswer => ({
  contentType: "text/html; charset=utf-8",
  body: `<!doctype html><html lang="en"><head><title>${escapeHtml(title)}</title></head><body><h1>${escapeHtml(title)}</h1>${inner}</body></html>`,
});

/** The shop by its host; `now` is its own time. */
export const shopStandIn = (now: () => Promise<Date>): readonly [string, StandIn] => [
  SHOP_HOST,
  async (address) => answer(address.pathname, await now()),
];
export const SHOP_ADDRESS = `${HOME}products.json`;
export const SHOP_STOCK_ADDRESS = `${HOME}stock.csv`;
