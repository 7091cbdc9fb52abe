/** The themes of the house: the one that new emails have, others beside it, and new ones from what the brand has already. */
import { getFormProps, useForm } from "@conform-to/react";
import { Ellipsis } from "lucide-react";
import { data, useNavigate, useSubmit } from "react-router";
import { z } from "zod";
import { readFile } from "#core/files/index.ts";
import { canonical } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { proposedTheme } from "#core/theme/proposal.ts";
import { ownFont, type Theme, withKnownFonts } from "#core/theme/theme.ts";
import { fromTokens } from "#core/theme/tokens.ts";
import { takeFileFonts } from "#server/arriving/carried.ts";
import { offeredThemes } from "#server/campaigns/starting.ts";
import { FetchError } from "#server/fetching/error.ts";
import { PictureError } from "#server/images/pictures.ts";
import type { Services } from "#server/services.ts";
import { listFonts } from "#server/store/fonts.ts";
import { getSettings, saveSetting } from "#server/store/settings.ts";
import { addTheme, getTheme, listThemes } from "#server/store/themes.ts";
import { coloursOfImage, lookAtAddress, lookOfPage } from "#server/theming/colours.ts";
import { submissionOf } from "../form.ts";
import { ThemeCard } from "../library/theme-card.tsx";
import { removing } from "../removed.ts";
import { at } from "../request.ts";
import { Button, IconButton } from "../ui/button.tsx";
import { FileField, FormErrors, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Menu } from "../ui/menu.tsx";
import { Chip, Page, PageTitle } from "../ui/page.tsx";
import { useTold } from "../ui/toast.tsx";
import { PICTURE_TYPES } from "../ui/upload-picture.tsx";
import type { Route } from "./+types/library.themes.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Themes · Septima" }];

export async function loader({ context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const kept = new Set((await listThemes(sql)).map(({ id }) => id));
  const offered = await offeredThemes(sql);
  return {
    // What ships, and the theme of new emails, is not deleted.
    themes: offered.map(({ key, theme }) => ({ key, theme, own: kept.has(key) })),
  };
}

const file = z
  .instanceof(File, { error: "Choose a file." })
  .refine(({ size }) => size > 0, "Choose a file.")
  .refine(({ size }) => size <= LIMITS.pictureBytes, `At most ${LIMITS.pictureBytes / 1e6} MB.`);
const schema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("image"), image: file }),
  z.object({ do: z.literal("file"), file }),
  z.object({
    do: z.literal("page"),
    page: z
      .string("Write an address, or paste CSS.")
      .trim()
      .min(4, "Write an address, or paste CSS.")
      .max(LIMITS.pageLook, "This is too long."),
  }),
  z.object({ do: z.literal("use"), theme: z.string().max(80) }),
  z.object({ do: z.literal("delete"), theme: z.string().max(80) }),
]);

const titleOf = (name: string) =>
  name
    .replace(/\.[^.]*$/, "")
    .replace(/[-_]+/g, " ")
    .trim()
    .slice(0, 60);

/** The theme that a file carries, ours or design tokens; the house's fonts that come with it are kept. */
async function themeIn(
  services: Services,
  text: string,
  base: Theme,
): Promise<Theme | { problem: string }> {
  const own = readFile(text);
  if (!("problem" in own)) {
    if (own.kind !== "theme") return { problem: "This file carries an email, not a theme." };
    await takeFileFonts(services, own.fonts, own.theme);
    return own.theme;
  }
  if (/"septima"\s*:/.test(text.slice(0, 400))) return own;
  const read = fromTokens(text, base);
  return "problem" in read ? read : read.theme;
}

export async function action({ request, context }: Route.ActionArgs) {
  const { services, sql, now } = at(context);
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data({ result: submission.reply(), said: "" }, 400);
  const asked = submission.value;
  const refuse = (name: string, message: string) =>
    data({ result: submission.reply({ fieldErrors: { [name]: [message] } }), said: "" }, 400);
  const { theme: brand } = await getSettings(sql);
  if (asked.do === "delete") {
    const theme = await getTheme(sql, asked.theme);
    return removing(
      context,
      "themes",
      asked.theme,
      `The theme “${theme?.name ?? ""}”`,
      "/library/themes",
    );
  }
  if (asked.do === "use") {
    const found = (await offeredThemes(sql)).find(({ key }) => key === asked.theme);
    if (!found) return data({ result: submission.reply(), said: "This theme is gone." }, 404);
    await services.database.tx(async (tx) => {
      // The one that gives way stays among the others, unless it is there already.
      const kept = await listThemes(tx);
      const spelled = canonical(brand as never);
      if (!kept.some(({ theme }) => canonical(theme as never) === spelled))
        await addTheme(tx, brand, now);
      await saveSetting(tx, "theme", found.theme);
    });
    return { result: submission.reply(), said: `New emails look like “${found.theme.name}” now` };
  }
  const made = await proposed(context, asked, brand);
  if ("problem" in made) return refuse(asked.do, made.problem);
  if (!(await addTheme(sql, made, now)))
    return refuse(asked.do, `At most ${LIMITS.themes} themes.`);
  return {
    result: submission.reply({ resetForm: true }),
    said: `“${made.name}” is among your themes`,
  };
}

type Asked = Extract<z.infer<typeof schema>, { do: "image" | "file" | "page" }>;

/** The theme that is made of what somebody gives, or what is wrong with that. */
async function proposed(
  context: Route.ActionArgs["context"],
  asked: Asked,
  brand: Theme,
): Promise<Theme | { problem: string }> {
  const { services } = at(context);
  switch (asked.do) {
    case "file": {
      const read = await themeIn(services, await asked.file.text(), brand);
      if ("problem" in read) return read;
      const fonts = (await listFonts(services.database.sql)).map(({ id }) => ownFont(id));
      return withKnownFonts(read, new Set(fonts));
    }
    case "image": {
      const bytes = new Uint8Array(await asked.image.arrayBuffer());
      const colours = await coloursOfImage(services, bytes).catch((error) => {
        if (error instanceof PictureError) return null;
        throw error;
      });
      if (!colours)
        return { problem: "This is no image that can be read: PNG, JPEG, GIF or WebP." };
      return proposedTheme(titleOf(asked.image.name) || "From an image", colours, {}, brand);
    }
    case "page": {
      try {
        const isAddress = /^https?:\/\/\S+$/i.test(asked.page);
        const look = isAddress
          ? await lookAtAddress(services.fetcher, asked.page)
          : lookOfPage(asked.page);
        if (look.colours.length === 0) return { problem: "No colours are named there." };
        const name = look.name || (isAddress ? new URL(asked.page).hostname : "From a page");
        return proposedTheme(name, look.colours, look.font ? { font: look.font } : {}, brand);
      } catch (error) {
        if (error instanceof FetchError) return { problem: error.message };
        throw error;
      }
    }
  }
}

export default function Themes({ loaderData: { themes }, actionData }: Route.ComponentProps) {
  const submit = useSubmit();
  const navigate = useNavigate();
  useTold(actionData, !!actionData?.said, actionData?.said ?? "");
  const [form, fields] = useForm<{ image: File; file: File; page: string }>({
    id: "new-theme",
    lastResult: actionData?.result as never,
  });
  return (
    <Page>
      <PageTitle
        title="Themes"
        about="How emails look. An email keeps its own: what is changed here later changes none."
      />
      <section aria-label="A new theme" className="mb-6 rounded-md border bg-sheet p-4">
        <h2 className="mb-3 text-title">A new theme</h2>
        <FormErrors errors={form.errors ?? null} />
        <div className="grid grid-cols-3 gap-6 max-lg:grid-cols-1">
          <Form
            method="post"
            encType="multipart/form-data"
            className="flex flex-col items-start gap-2"
          >
            <input type="hidden" name="do" value="image" />
            <FileField
              label="From a logo or another image"
              hint="Its colours become roles that read well."
              errors={fields.image.errors}
              name="image"
              accept={PICTURE_TYPES}
            />
            <Button type="submit">Propose a theme</Button>
          </Form>
          <Form method="post" {...getFormProps(form)} className="flex flex-col items-start gap-2">
            <input type="hidden" name="do" value="page" />
            <TextField
              meta={fields.page}
              label="From a page of the web"
              hint="Its address, or its CSS."
              placeholder="https://larkmoor.example"
              className="w-full"
            />
            <Button type="submit">Read its look</Button>
          </Form>
          <Form
            method="post"
            encType="multipart/form-data"
            className="flex flex-col items-start gap-2"
          >
            <input type="hidden" name="do" value="file" />
            <FileField
              label="From a file"
              hint="A theme of Septima, or Design Tokens (JSON)."
              errors={fields.file.errors}
              name="file"
              accept=".json,application/json"
            />
            <Button type="submit">Import it</Button>
          </Form>
        </div>
      </section>
      <div className="grid grid-cols-2 items-start gap-4 max-md:grid-cols-1">
        {themes.map((shown) => (
          <ThemeCard key={shown.key} theme={shown.theme}>
            {shown.key === "brand" && <Chip tone="done">New emails</Chip>}
            <Menu
              trigger={
                <IconButton label={`More about ${shown.theme.name}`}>
                  <Ellipsis />
                </IconButton>
              }
              items={() => [
                { label: "Change", onChoose: () => void navigate(`/library/themes/${shown.key}`) },
                ...(shown.key === "brand"
                  ? []
                  : [
                      {
                        label: "Use for new emails",
                        onChoose: () =>
                          void submit({ do: "use", theme: shown.key }, { method: "post" }),
                      },
                    ]),
                ...(["theme", "tokens"] as const).map((kind) => ({
                  label: kind === "theme" ? "Download (Septima file)" : "Download (Design Tokens)",
                  onChoose: () =>
                    window.location.assign(`/library/themes/${shown.key}/${kind}.json`),
                })),
                ...(!shown.own
                  ? []
                  : [
                      {
                        label: "Delete",
                        onChoose: () =>
                          void submit({ do: "delete", theme: shown.key }, { method: "post" }),
                      },
                    ]),
              ]}
            />
          </ThemeCard>
        ))}
      </div>
    </Page>
  );
}
