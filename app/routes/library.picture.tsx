/** One image of the library: what it shows, where it stands, what can be done with it. */
import { getFormProps, useForm } from "@conform-to/react";
import { getZodConstraint } from "@conform-to/zod/v4";
import { useState } from "react";
import { data, Link, useNavigate } from "react-router";
import { z } from "zod";
import type { Picture } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import { PICTURE_ID } from "#core/picture-id.ts";
import type { PictureRecipe } from "#core/pictures/recipe.ts";
import { replaceEverywhere } from "#server/campaigns/replacing.ts";
import { required } from "#server/forms.ts";
import { originalOf } from "#server/images/editing.ts";
import { listFolders } from "#server/store/picture-folders.ts";
import {
  alikePictures,
  getPicture,
  madeFrom,
  pictureUses,
  sayOfPicture,
} from "#server/store/pictures.ts";
import { ask, wordsOf } from "../ask.ts";
import { submissionOf } from "../form.ts";
import { PictureEditor } from "../pictures/editor.tsx";
import { FocusPoint } from "../pictures/focus.tsx";
import { leftIn, REPLACED_BEFORE, type Replaced, replacedIn } from "../pictures/replaced.ts";
import { removing } from "../removed.ts";
import { at } from "../request.ts";
import { Button, Buttonlike } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { Confirm } from "../ui/confirm.tsx";
import { Field, FormErrors, TextAreaField, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Chip, Page, PageTitle } from "../ui/page.tsx";
import { PicturePicker } from "../ui/picture-picker.tsx";
import { usePut } from "../ui/put.ts";
import { Segmented } from "../ui/segmented.tsx";
import { named, Select } from "../ui/select.tsx";
import { useToast } from "../ui/toast.tsx";
import type { Route } from "./+types/library.picture.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: `${loaderData?.picture.name ?? "Image"} · Septima` },
];

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, sql } = at(context);
  const picture = await getPicture(sql, params.picture);
  if (!picture) throw data("This image is gone.", { status: 404 });
  const [from, uses, alike, made, folders, by] = await Promise.all([
    originalOf(services, picture),
    pictureUses(sql, picture.id),
    alikePictures(sql, picture.id),
    madeFrom(sql, picture.id),
    listFolders(sql),
    picture.replacedBy ? getPicture(sql, picture.replacedBy) : null,
  ]);
  return { picture, ...from, uses, alike, made, folders, by };
}

const percent = z.number().int().min(0).max(100);
/** Labels are written one after another, with commas between them. */
const labels = z
  .string()
  .default("")
  .transform((text) => [...new Set(text.split(",").map((one) => one.trim().toLowerCase()))])
  .transform((all) => all.filter((one) => one !== ""))
  .refine((all) => all.length <= LIMITS.pictureLabels, `At most ${LIMITS.pictureLabels} labels.`)
  .refine((all) => all.every((one) => one.length <= 40), "A label has at most 40 letters.");

const sayingSchema = z.object({
  do: z.literal("say"),
  name: required("Give it a name."),
  alt: z.string().trim().max(LIMITS.lineLength, "This is too long.").default(""),
  decorative: z.boolean().default(false),
  folder: z.string().max(40).default(""),
  labels,
  x: percent,
  y: percent,
});
const schema = z.discriminatedUnion("do", [
  sayingSchema,
  z.object({
    do: z.literal("replace"),
    by: z.string().regex(PICTURE_ID),
    seen: z.string().regex(PICTURE_ID).optional(),
  }),
  z.object({ do: z.literal("delete") }),
]);

export async function action({ request, params, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  const said = (problem: string | null, replaced: Replaced | null = null) => ({
    ...{ result: submission.reply(), problem, replaced },
  });
  if (submission.status !== "success") return data(said(null), 400);
  const asked = submission.value;
  const { services, sql, member } = at(context);
  const picture = await getPicture(sql, params.picture);
  if (!picture) return data(said("This image is gone."), 404);
  switch (asked.do) {
    case "say": {
      const { name, alt, decorative, folder, x, y } = asked;
      const known = folder === "" || (await listFolders(sql)).some(({ id }) => id === folder);
      if (!known) return data(said("This folder is gone."), 409);
      const focus = x === 50 && y === 50 ? null : { x, y };
      await sayOfPicture(sql, picture.id, {
        ...{ name, alt, decorative, labels: asked.labels, focus, folder: folder || null },
      });
      return said(null);
    }
    case "replace": {
      const by = await getPicture(sql, asked.by);
      if (!by || by.id === picture.id) return data(said("Choose another image."), 400);
      const replaced = await replaceEverywhere(services, {
        ...{ from: picture.id, to: by.id, seen: asked.seen ?? null, member },
      });
      return replaced ? said(null, replaced) : data(said(REPLACED_BEFORE), 409);
    }
    case "delete": {
      const uses = await pictureUses(sql, picture.id);
      if (uses.length > 0) {
        const names = uses.slice(0, NAMED).map(({ name }) => `“${name}”`);
        return data(said(`“${picture.name}” stands in ${names.join(", ")}.`), 409);
      }
      return removing(context, "pictures", picture.id, `The image “${picture.name}”`, "/library");
    }
  }
}

/** How many places are named where it cannot be deleted. */
const NAMED = 5;

type Loaded = Route.ComponentProps["loaderData"];

const HREF = {
  campaign: (id: string) => `/campaigns/${id}`,
  template: () => "/templates",
  saved: () => "/library/saved",
  derived: (id: string) => `/library/derived/${id}`,
  settings: () => "/settings",
} as const;
const KIND = {
  campaign: "email",
  template: "template",
  saved: "saved block",
  derived: "derived tag",
  settings: "logo",
} as const;

function Uses({ uses }: Pick<Loaded, "uses">) {
  if (uses.length === 0) return <p className="text-ink-3">Nowhere yet.</p>;
  return (
    <ul className="flex flex-col gap-1">
      {uses.map(({ kind, id, name, fixed }) => (
        <li key={`${kind}${id}`}>
          <Link className="link" to={HREF[kind](id)}>
            {name}
          </Link>{" "}
          <Chip>{fixed ? "scheduled" : KIND[kind]}</Chip>
        </li>
      ))}
    </ul>
  );
}

function Others({ title, pictures }: { title: string; pictures: readonly Picture[] }) {
  if (pictures.length === 0) return null;
  return (
    <section className="mt-5">
      <h2 className="mb-1.5 text-lead italic">{title}</h2>
      <ul className="flex flex-wrap gap-2">
        {pictures.map(({ id, file, name }) => (
          <li key={id}>
            <Link to={`/library/image/${id}`} className="block rounded-md border bg-bench">
              <img src={`/pictures/${file}`} alt={name} className="h-16 w-20 object-contain" />
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Saying({
  loaderData,
  result,
}: {
  loaderData: Loaded;
  result: Said["result"] | undefined;
}) {
  const { picture, folders } = loaderData;
  const [form, fields] = useForm({
    id: "say",
    lastResult: result,
    constraint: getZodConstraint(sayingSchema),
    defaultValue: {
      ...{ name: picture.name, alt: picture.alt, labels: picture.labels.join(", ") },
    },
    shouldRevalidate: "onInput",
  });
  const [decorative, setDecorative] = useState(picture.decorative ?? false);
  const [focus, setFocus] = useState(picture.focus ?? { x: 50, y: 50 });
  return (
    <Form method="post" {...getFormProps(form)} className="flex flex-col gap-3">
      <input type="hidden" name="do" value="say" />
      <FocusPoint src={`/pictures/${picture.file}`} focus={focus} onFocus={setFocus} />
      <input type="hidden" name="x" value={focus.x} />
      <input type="hidden" name="y" value={focus.y} />
      <TextField meta={fields.name} label="Name" />
      <TextAreaField
        meta={fields.alt}
        label="Alt text"
        rows={2}
        disabled={decorative}
        hint="What it shows, for those who do not see it. It is put in wherever the image is."
      />
      <Checkbox
        name="decorative"
        label="Only decoration: read aloud as nothing"
        checked={decorative}
        onChange={({ target }) => setDecorative(target.checked)}
      />
      <Field label="Folder">
        {(own) => (
          <Select
            {...own}
            name="folder"
            initial={picture.folder ?? ""}
            none="none"
            options={named(folders)}
          />
        )}
      </Field>
      <TextField meta={fields.labels} label="Labels" hint="With commas between them." />
      <FormErrors errors={form.errors ?? null} />
      <Button primary type="submit" className="self-start">
        Keep
      </Button>
    </Form>
  );
}

type Said = NonNullable<Route.ComponentProps["actionData"]>;

/** Puts another image in the place of this one wherever it stands. */
function Replacing({ loaderData }: { loaderData: Loaded }) {
  const { picture, uses } = loaderData;
  const [by, setBy] = useState<Picture | null>(null);
  return (
    <Form method="post" className="mt-3 flex flex-wrap items-center gap-2">
      <input type="hidden" name="do" value="replace" />
      <input type="hidden" name="by" value={by?.id ?? ""} />
      {picture.replacedBy && <input type="hidden" name="seen" value={picture.replacedBy} />}
      <PicturePicker
        title="Put in its place"
        taken={by?.id ?? null}
        onTake={setBy}
        trigger={<Buttonlike type="button">Choose another for all these places</Buttonlike>}
      />
      {by && (
        <>
          <img src={`/pictures/${by.file}`} alt={by.name} className="h-10 rounded-md border" />
          <Button primary type="submit">
            Replace in {uses.length === 1 ? "1 place" : `${uses.length} places`}
          </Button>
        </>
      )}
    </Form>
  );
}

function About({
  loaderData,
  actionData,
}: Pick<Route.ComponentProps, "loaderData" | "actionData">) {
  const { picture, uses, alike, made, by } = loaderData;
  return (
    <div className="flex gap-8 max-md:flex-col">
      <div className="w-[26rem] flex-none max-md:w-full">
        <Saying loaderData={loaderData} result={actionData?.result} key={picture.id} />
      </div>
      <div className="min-w-0 flex-1">
        {by && (
          <p role="status" className="mb-4 rounded-md bg-saffron-soft p-2.5 text-saffron-ink">
            {picture.replacedWho ?? "Somebody"} put{" "}
            <Link className="link" to={`/library/image/${by.id}`}>
              {by.name}
            </Link>{" "}
            in its place.
          </p>
        )}
        {actionData?.replaced && (
          <div role="status" className="mb-4 rounded-md bg-bench p-2.5">
            <p className="font-semibold">{replacedIn(actionData.replaced)}</p>
            {leftIn(actionData.replaced).map((line) => (
              <p key={line}>{line}</p>
            ))}
          </div>
        )}
        <h2 className="mb-1.5 text-lead italic">Where it stands</h2>
        <Uses uses={uses} />
        {uses.length > 0 && <Replacing loaderData={loaderData} key={uses.length} />}
        <p className="mt-2 text-small text-ink-3">Emails that are sent stay as they are.</p>
        <Others title="Looks alike" pictures={alike} />
        <Others title="Made from it" pictures={made} />
        <Form method="post" className="mt-6">
          <input type="hidden" name="do" value="delete" />
          <Button type="submit" disabled={uses.length > 0}>
            Delete the image
          </Button>
        </Form>
      </div>
    </div>
  );
}

/** Keeps what was done: beside the image, or in its place. */
function Keeping({
  recipe,
  changed,
  loaderData,
}: {
  recipe: PictureRecipe | null;
  changed: boolean;
  loaderData: Loaded;
}) {
  const { picture, uses } = loaderData;
  const navigate = useNavigate();
  const say = useToast();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const keep = async (as: "copy" | "place") => {
    setBusy(true);
    setProblem(null);
    const reply = await ask<{ picture: Picture; replaced: Replaced | null }>(
      `/library/image/${picture.id}/make`,
      { json: { recipe, as, seen: picture.replacedBy } },
    );
    setBusy(false);
    if (reply.kind !== "ok") return setProblem(wordsOf(reply, "The image was not kept."));
    const { replaced, picture: made } = reply.body;
    say(replaced ? [replacedIn(replaced), ...leftIn(replaced)].join(" ") : "Kept in the library.");
    void navigate(`/library/image/${made.id}`);
  };
  const idle = !recipe || !changed || busy;
  return (
    <div className="mt-3 flex flex-wrap items-center gap-2">
      <Button primary disabled={idle} onClick={() => void keep("copy")}>
        {busy ? "Keeping…" : "Keep as a copy"}
      </Button>
      {uses.length > 0 && (
        <Confirm
          title="Put it in the place of the image?"
          about={`It stands in ${uses.length === 1 ? "1 place" : `${uses.length} places`}, which will all show what you have made. Emails that are sent stay as they are.`}
          act="Put it in place"
          onAct={() => void keep("place")}
          trigger={
            <Buttonlike type="button" disabled={idle}>
              Keep in its place
            </Buttonlike>
          }
        />
      )}
      {problem && (
        <p role="alert" className="text-small font-semibold text-rust">
          {problem}
        </p>
      )}
    </div>
  );
}

export default function PicturePage({ loaderData, actionData }: Route.ComponentProps) {
  const { picture, original, recipe } = loaderData;
  const put = usePut();
  const still = !picture.file.endsWith(".gif");
  const [view, setView] = useState<"about" | "edit">("about");
  const show = (next: "about" | "edit") => {
    setView(next);
    put("do", next === "edit" ? "edit" : null);
  };
  return (
    <Page wide>
      <PageTitle
        title={picture.name}
        about={
          <>
            <Link className="link" to="/library">
              Images
            </Link>{" "}
            · {picture.width} × {picture.height}
            {picture.bytes ? ` · ${Math.ceil(picture.bytes / 1024)} KB` : ""}
          </>
        }
      >
        {still && (
          <Segmented
            label="View"
            value={view}
            options={[
              { value: "about", label: "About it" },
              { value: "edit", label: "Edit" },
            ]}
            onChange={show}
          />
        )}
      </PageTitle>
      <FormErrors errors={actionData?.problem ? [actionData.problem] : null} />
      {view === "about" ? (
        <About loaderData={loaderData} actionData={actionData} />
      ) : (
        <PictureEditor key={picture.id} original={original} initial={recipe}>
          {(ready, changed) => <Keeping recipe={ready} changed={changed} loaderData={loaderData} />}
        </PictureEditor>
      )}
    </Page>
  );
}
