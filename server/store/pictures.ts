/** Pictures: named after their content, so that one file never changes. */
import type { Picture } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import type { Focus } from "#core/pictures/crop.ts";
import { type PictureRecipe, pictureRecipeSchema } from "#core/pictures/recipe.ts";
import { constantSql, fragment, identifier, type Sql as SqlPiece } from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { wordsFit } from "./search.ts";

export interface PicturePage {
  readonly pictures: readonly Picture[];
  /** How many there are in all. */
  readonly total: number;
}

const COLUMNS = fragment`id, file, name, width, height, alpha, bytes, tones, alt, decorative, focus`;

export interface PictureFilter {
  /** Beginnings of words of its name, or one of its labels. */
  readonly words?: string;
  /** The id of a folder, or "none" for those in none. */
  readonly folder?: string;
  readonly label?: string;
}

/** Those that people put in, as far as they fit. */
function fits({ words = "", folder = "", label = "" }: PictureFilter): SqlPiece {
  const named = fragment`(${wordsFit(identifier("name"), words)} or labels @> array[lower(${words.trim()}::text)])`;
  const inFolder =
    folder === ""
      ? constantSql("true")
      : folder === "none"
        ? constantSql("folder_id is null")
        : fragment`folder_id = ${folder}`;
  const labelled = label === "" ? constantSql("true") : fragment`labels @> array[${label}::text]`;
  return fragment`not of_items and ${named} and ${inFolder} and ${labelled}`;
}

export const countPictures = async (sql: Sql, filter: PictureFilter = {}): Promise<number> =>
  first(await sql<{ n: number }>`select count(*)::int as n from pictures where ${fits(filter)}`)!.n;

/** Pictures that fit what is searched, the latest first, `from` which to begin. */
export async function searchPictures(
  sql: Sql,
  { from = 0, ...filter }: PictureFilter & { readonly from?: number } = {},
): Promise<PicturePage> {
  const pictures = await sql<Picture>`
    select ${COLUMNS} from pictures where ${fits(filter)}
    order by created_at desc, id offset ${from} limit ${LIMITS.picturesPerPage}`;
  return { pictures, total: await countPictures(sql, filter) };
}

/** A picture with what the library keeps of it. */
export interface LibraryPicture extends Picture {
  readonly folder: string | null;
  readonly labels: readonly string[];
  /** The file of what was kept of a larger original; null where nothing was. */
  readonly master: string | null;
  readonly madeFrom: string | null;
  readonly recipe: PictureRecipe | null;
  readonly replacedBy: string | null;
  readonly replacedAt: Date | null;
  /** The name of who replaced it. */
  readonly replacedWho: string | null;
}

export async function getPicture(sql: Sql, id: string): Promise<LibraryPicture | null> {
  const row = first(
    await sql<Omit<LibraryPicture, "recipe"> & { recipe: unknown }>`
      select ${COLUMNS}, folder_id as folder, labels, master, made_from as "madeFrom", recipe,
        replaced_by as "replacedBy", replaced_at as "replacedAt",
        (select m.name from members m where m.id = replaced_who) as "replacedWho"
      from pictures where id = ${id}`,
  );
  if (!row) return null;
  return { ...row, recipe: pictureRecipeSchema.nullable().catch(null).parse(row.recipe) };
}

/** What people say of a picture. */
export interface Said {
  readonly name: string;
  readonly alt: string;
  readonly decorative: boolean;
  readonly folder: string | null;
  readonly labels: readonly string[];
  readonly focus: Focus | null;
}

/** A folder that is still there; another may have removed it since it was looked for. */
const folderStill = (id: string | null) =>
  fragment`(select f.id from picture_folders f where f.id = ${id})`;

/** Keeps what is said of a picture; false where it is gone. */
export const sayOfPicture = async (sql: Sql, id: string, said: Partial<Said>): Promise<boolean> => {
  const { name, alt, decorative, labels, folder, focus } = said;
  return (
    (
      await sql`update pictures set
        name = coalesce(${name ?? null}, name), alt = coalesce(${alt ?? null}, alt),
        decorative = coalesce(${decorative ?? null}::boolean, decorative),
        labels = coalesce(${labels ? [...labels] : null}::text[], labels),
        folder_id = case when ${folder !== undefined}::boolean then ${folderStill(folder ?? null)} else folder_id end,
        focus = case when ${focus !== undefined}::boolean then ${jsonb(focus ?? undefined)} else focus end
      where id = ${id} returning 1`
    ).length > 0
  );
};

/** Puts pictures into a folder, or into none. */
export async function movePictures(
  sql: Sql,
  ids: readonly string[],
  folder: string | null,
): Promise<void> {
  await sql`update pictures set folder_id = ${folderStill(folder)} where id = any (${[...ids]}::text[])`;
}

/** Gives pictures one more label, those that have as many as they may have left out. */
export async function labelPictures(
  sql: Sql,
  ids: readonly string[],
  label: string,
): Promise<void> {
  await sql`update pictures set labels = array(select distinct unnest(labels || ${label}::text) order by 1)
    where id = any (${[...ids]}::text[]) and cardinality(labels) < ${LIMITS.pictureLabels}`;
}

/** Every label, and how many pictures have it. */
export const pictureLabels = (sql: Sql): Promise<{ label: string; count: number }[]> =>
  sql<{ label: string; count: number }>`select label, count(*)::int as count
    from pictures, unnest(labels) label where not of_items group by label order by label limit 100`;

/** In how many of their 64 bits the likenesses of pictures may differ that are alike. */
const ALIKE = 8;

/** Pictures of the library that look like one, the likest first. */
export const alikePictures = (sql: Sql, id: string): Promise<Picture[]> =>
  sql<Picture>`select ${COLUMNS} from pictures,
      (select likeness as asked from pictures where id = ${id}) own
    where id <> ${id} and not of_items
      -- Of a plain ground next to nothing is known: it would be like any other.
      and bit_count(asked::bit(64)) between 8 and 56
      and bit_count((likeness # asked)::bit(64)) <= ${ALIKE}
    order by bit_count((likeness # asked)::bit(64)), created_at desc limit ${LIMITS.alikeShown}`;

/** Pictures that were made from one, the latest first. */
export const madeFrom = (sql: Sql, id: string): Promise<Picture[]> =>
  sql<Picture>`select ${COLUMNS} from pictures where made_from = ${id} and not of_items
    order by created_at desc limit ${LIMITS.alikeShown}`;

/**
 * Notes that a picture is replaced everywhere, in a transaction. `seen`: by which it was replaced when the person
 * looked. False where somebody else has replaced it since.
 */
export const noteReplaced = async (
  sql: Sql,
  id: string,
  { by, seen, who, at }: { by: string; seen: string | null; who: string; at: Date },
): Promise<boolean> =>
  (
    await sql`update pictures set replaced_by = ${by}, replaced_at = ${at}, replaced_who = ${who}
      where id = ${id} and replaced_by is not distinct from ${seen}::text returning 1`
  ).length > 0;

/** The file of one picture, or null where there is none. */
export const pictureFile = async (sql: Sql, id: string): Promise<string | null> =>
  first(await sql<{ file: string }>`select file from pictures where id = ${id}`)?.file ?? null;

/** Sixteen hex digits as the database has them. */
const asSigned = (likeness: string): string =>
  BigInt.asIntN(64, BigInt(`0x${likeness}`)).toString();

/** A picture of which nobody has counted how light it is, or what it looks like; null where there is none. */
export const pictureWithoutTones = async (sql: Sql): Promise<Pick<Picture, "id" | "file"> | null> =>
  first(
    await sql<Pick<Picture, "id" | "file">>`select id, file from pictures
      where tones is null or likeness is null order by created_at desc limit 1`,
  );

export async function keepTones(
  sql: Sql,
  id: string,
  tones: readonly number[],
  /** 16 hex digits. */
  likeness: string,
): Promise<void> {
  await sql`update pictures set tones = ${[...tones]}::smallint[], likeness = ${asSigned(likeness)}::bigint
    where id = ${id}`;
}

/** The ids of the oldest pictures. */
export const oldestPictures = async (sql: Sql, count: number): Promise<string[]> =>
  (
    await sql<{ id: string }>`select id from pictures order by created_at, id desc limit ${count}`
  ).map(({ id }) => id);

/** Some pictures, in no order; those that are not there are left out. */
export const getPictures = (sql: Sql, ids: Iterable<string>): Promise<Picture[]> =>
  sql<Picture>`select ${COLUMNS} from pictures where id = any (${[...ids]}::text[])`;

/** Puts a picture in the place of another in saved blocks, derived tags and on the pages for readers: ids are found nowhere else in them. */
export async function replaceInRows(sql: Sql, from: string, to: string): Promise<void> {
  await sql`update saved_blocks set body = replace(body, ${from}, ${to}) where position(${from} in body) > 0`;
  await sql`update derived_tags set body = replace(body::text, ${from}, ${to})::jsonb
    where position(${from} in body::text) > 0`;
  await sql`update settings set value = value || jsonb_build_object('logo', ${to}::text)
    where key = 'pages' and value ->> 'logo' = ${from}`;
}

/** What a picture is called, or null where there is none. */
export const pictureName = async (sql: Sql, id: string): Promise<string | null> =>
  first(await sql<{ name: string }>`select name from pictures where id = ${id}`)?.name ?? null;

/** What is known of a picture when it comes. */
export interface NewPicture extends Picture {
  readonly bytes: number;
  /** 16 hex digits. */
  readonly likeness?: string;
  readonly master?: string | null;
}

export async function savePicture(
  sql: Sql,
  picture: NewPicture,
  now: Date,
  {
    ofItems = false,
    made = null,
    folder = null,
  }: {
    /** It came with an item: it stands in no list until somebody puts it in. */
    ofItems?: boolean;
    /** From which picture, and how. */
    made?: { from: string; recipe: PictureRecipe } | null;
    folder?: string | null;
  } = {},
): Promise<void> {
  const { id, file, name, width, height, alpha, bytes, tones = null, likeness, master } = picture;
  const likes = likeness ? asSigned(likeness) : null;
  await sql`insert into pictures as p (id, file, name, width, height, alpha, bytes, tones, created_at, of_items,
      alt, decorative, focus, likeness, master, made_from, recipe, folder_id)
    values (${id}, ${file}, ${name}, ${width}, ${height}, ${alpha}, ${bytes}, ${tones && [...tones]}::smallint[], ${now}, ${ofItems},
      ${picture.alt ?? ""}, ${picture.decorative ?? false}, ${jsonb(picture.focus ?? undefined)},
      ${likes}::bigint, ${master ?? null}, ${made?.from ?? null}, ${jsonb(made?.recipe)}, ${folder})
    on conflict (id) do update set of_items = p.of_items and excluded.of_items,
      likeness = coalesce(p.likeness, excluded.likeness), master = coalesce(p.master, excluded.master)`;
}
