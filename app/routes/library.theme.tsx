/** One theme of the house: every role of it, with what it makes of an email beside. */
import { useState } from "react";
import { data, Link, redirect } from "react-router";
import { z } from "zod";
import { canonical, parseJson } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { isShippedTheme } from "#core/theme/shipped.ts";
import { type Theme, themeSchema } from "#core/theme/theme.ts";
import { themeNamed } from "#server/campaigns/starting.ts";
import { required } from "#server/forms.ts";
import { getSettings, saveSetting } from "#server/store/settings.ts";
import { addTheme, changeTheme } from "#server/store/themes.ts";
import { submissionOf } from "../form.ts";
import { ThemeCard } from "../library/theme-card.tsx";
import { at } from "../request.ts";
import { ThemeFields } from "../theming/theme-fields.tsx";
import { Button } from "../ui/button.tsx";
import { Field, FormErrors, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Chip, Page, PageTitle } from "../ui/page.tsx";
import { useTold } from "../ui/toast.tsx";
import type { Route } from "./+types/library.theme.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: `${loaderData?.theme.name ?? "Theme"} · Septima` },
];

export async function loader({ params, context }: Route.LoaderArgs) {
  const theme = await themeNamed(at(context).sql, params.theme);
  if (!theme) throw data("This theme is gone.", { status: 404 });
  return { key: params.theme, theme, ships: isShippedTheme(params.theme) };
}

/** A theme as a form carries it. */
const themeText = z
  .string()
  .max(LIMITS.themeFile)
  .transform((text) => parseJson(text))
  .pipe(themeSchema);
const schema = z.object({
  name: required("Give it a name.", 80),
  theme: themeText,
  /** As it was when it was opened. */
  seen: themeText,
});

export async function action({ request, params, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  const refuse = (problem: string, status: number) =>
    data({ result: submission.reply(), problem }, status);
  if (submission.status !== "success") {
    const [problem = "This theme cannot be kept."] = Object.values(submission.error ?? {}).flat();
    return refuse(String(problem), 400);
  }
  const { services, now } = at(context);
  const { name, seen } = submission.value;
  const theme: Theme = { ...submission.value.theme, name };
  const key = params.theme;
  if (isShippedTheme(key)) {
    const id = await addTheme(services.database.sql, theme, now);
    return id ? redirect(`/library/themes/${id}`) : refuse(`At most ${LIMITS.themes} themes.`, 409);
  }
  const kept = await services.database.tx(async (tx) => {
    if (key !== "brand") return changeTheme(tx, key, theme, seen);
    const { theme: before } = await getSettings(tx);
    if (canonical(before as never) !== canonical(seen as never)) return false;
    await saveSetting(tx, "theme", theme);
    return true;
  });
  if (!kept) {
    return refuse("Somebody has changed or removed it in the meantime. Load the page anew.", 409);
  }
  return { result: submission.reply(), problem: null };
}

export default function ThemePage({ loaderData, actionData }: Route.ComponentProps) {
  useTold(actionData, actionData?.problem === null, "Kept");
  // What is kept is another theme to begin from.
  const { key, theme } = loaderData;
  return (
    <Editing
      key={`${key} ${JSON.stringify(theme)}`}
      loaderData={loaderData}
      actionData={actionData}
    />
  );
}

function Editing({
  loaderData: { key, theme: stored, ships },
  actionData,
}: Pick<Route.ComponentProps, "loaderData" | "actionData">) {
  const [theme, setTheme] = useState(stored);
  const changed = theme !== stored;
  return (
    <Page wide>
      <PageTitle
        title={stored.name}
        about={
          <Link className="link" to="/library/themes">
            Themes
          </Link>
        }
      >
        {changed ? <Chip>not saved</Chip> : key === "brand" && <Chip tone="done">New emails</Chip>}
        <Button primary type="submit" form="theme" disabled={!changed}>
          {ships ? "Keep as a theme of your own" : "Save the theme"}
        </Button>
      </PageTitle>
      <div className="flex items-start gap-8 max-lg:flex-col">
        <Form
          id="theme"
          method="post"
          className="flex w-[24rem] flex-none flex-col gap-3 max-lg:w-full"
        >
          <FormErrors errors={actionData?.problem ? [actionData.problem] : null} />
          <Field label="Name">
            {(own) => (
              <input
                {...own}
                name="name"
                value={theme.name}
                maxLength={80}
                className={INPUT}
                onChange={({ target }) => setTheme({ ...theme, name: target.value })}
              />
            )}
          </Field>
          <input
            type="hidden"
            name="theme"
            value={JSON.stringify({ ...theme, name: stored.name })}
          />
          <input type="hidden" name="seen" value={JSON.stringify(stored)} />
          <ThemeFields theme={theme} onTheme={setTheme} />
          <p className="text-small text-ink-3">
            Emails that are there keep the theme they have; in the composer they can take this one.
          </p>
        </Form>
        <div className="sticky top-4 min-w-0 flex-1">
          <ThemeCard theme={theme} />
        </div>
      </div>
    </Page>
  );
}
