/** Days, months and small numbers as words, in the languages whose words are checked. */
const LANGS = ["en", "fr"] as const;

/** Names of months and weekdays with the number each stands for; January and Sunday are 0. */
const names = (options: Intl.DateTimeFormatOptions, count: number, of: (i: number) => Date) =>
  new Map(
    LANGS.flatMap((lang) => {
      const format = new Intl.DateTimeFormat(lang, { ...options, timeZone: "UTC" });
      return Array.from(
        { length: count },
        (_, i) => [format.format(of(i)).toLowerCase(), i] as const,
      );
    }),
  );

const monthNames = names({ month: "long" }, 12, (i) => new Date(Date.UTC(2024, i, 1)));
// 7 January 2024 was a Sunday.
const dayNames = names({ weekday: "long" }, 7, (i) => new Date(Date.UTC(2024, 0, 7 + i)));

const either = (words: Iterable<string>) =>
  new RegExp([...words].sort((a, b) => b.length - a.length).join("|"), "iu");
export const MONTHS = either(monthNames.keys());
export const DAYS = either(dayNames.keys());

export const monthOf = (name: string): number => monthNames.get(name.toLowerCase())!;
export const weekdayOf = (name: string): number => dayNames.get(name.toLowerCase())!;

/** The name of a weekday in the language of another one's name, as it is written: “Sunday”, “dimanche”. */
export function weekdayLike(weekday: number, like: string): string {
  const lang =
    LANGS.find(
      (one) =>
        new Intl.DateTimeFormat(one, { weekday: "long", timeZone: "UTC" })
          .format(new Date(Date.UTC(2024, 0, 7 + weekdayOf(like))))
          .toLowerCase() === like.toLowerCase(),
    ) ?? "en";
  const name = new Intl.DateTimeFormat(lang, { weekday: "long", timeZone: "UTC" }).format(
    new Date(Date.UTC(2024, 0, 7 + weekday)),
  );
  const capital = like[0] === like[0]!.toUpperCase();
  return capital ? name[0]!.toUpperCase() + name.slice(1) : name.toLowerCase();
}

const NUMBERS: Record<string, readonly string[]> = {
  en: "zero one two three four five six seven eight nine ten eleven twelve".split(" "),
  fr: "zéro un deux trois quatre cinq six sept huit neuf dix onze douze".split(" "),
};
/** A small number as a word; null for others, and in languages that are not known here. */
export const numberWord = (n: number, lang: string): string | null =>
  NUMBERS[lang.slice(0, 2)]?.[n] ?? null;
