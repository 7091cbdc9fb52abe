/** Reading products: by themselves, since what reads them is large. */
export { amountOf, type Offer, type ReadProducts, readOffers, readProducts } from "./read.ts";
