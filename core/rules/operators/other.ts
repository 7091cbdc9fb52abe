/** Operators of yes or no, of places and of records. */
import { z } from "zod";
import { distanceKm } from "../../fields/index.ts";
import { fragment } from "../fragment.ts";
import type { Operator } from "../operator.ts";
import { say } from "../said.ts";

export const yes: Operator<null> = {
  op: "yes",
  asks: "nothing",
  label: "is yes",
  types: ["yesNo"],
  argument: z.null(),
  words: (field) => `${field} is yes`,
  compile: () => (value) => value === true,
  sql: (value) => value,
  liquid: (value) => say(`${value} == true`),
};

export const no: Operator<null> = {
  op: "no",
  asks: "nothing",
  label: "is no",
  types: ["yesNo"],
  argument: z.null(),
  words: (field) => `${field} is no`,
  compile: () => (value) => value === false,
  sql: (value) => fragment`not ${value}`,
  liquid: (value) => say(`${value} == false`),
};

const near = z.strictObject({
  lat: z.number("Write the latitude.").min(-90).max(90),
  lon: z.number("Write the longitude.").min(-180).max(180),
  km: z.number("Write a distance.").min(0.1, "At least 0.1 km.").max(20_000, "At most 20,000 km."),
  name: z.string().max(120).default(""),
});
export type Near = z.infer<typeof near>;

export const within: Operator<Near> = {
  op: "within",
  asks: "near",
  label: "is near",
  types: ["place"],
  argument: near,
  words: (field, { km, name, lat, lon }) =>
    `${field} is within ${km} km of ${name || `${lat}, ${lon}`}`,
  compile:
    ({ lat, lon, km }) =>
    (value) =>
      distanceKm(value as readonly [number, number], [lat, lon]) <= km,
  // The haversine formula of `distanceKm`.
  sql: (value, { lat, lon, km }) => fragment`2 * 6371 * asin(least(1, sqrt(
    sin(radians(${lat}::float8 - (${value})[1]) / 2) ^ 2 + cos(radians((${value})[1]))
    * cos(radians(${lat}::float8)) * sin(radians(${lon}::float8 - (${value})[2]) / 2) ^ 2))) <= ${km}::float8`,
};

const recordId = z.number("Choose a record.").int().positive();

export const isRecord: Operator<number> = {
  op: "isRecord",
  asks: "record",
  label: "is",
  types: ["record"],
  argument: recordId,
  words: (field, argument, nameOf) => `${field} is ${nameOf("record", argument)}`,
  compile: (argument) => (value) => value === argument,
  sql: (value, argument) => fragment`${value} = ${argument}::bigint`,
};

export const isOtherRecord: Operator<number> = {
  op: "isOtherRecord",
  asks: "record",
  label: "is something other than",
  types: ["record"],
  argument: recordId,
  words: (field, argument, nameOf) =>
    `${field} is something other than ${nameOf("record", argument)}`,
  compile: (argument) => (value) => value !== argument,
  sql: (value, argument) => fragment`${value} <> ${argument}::bigint`,
};
