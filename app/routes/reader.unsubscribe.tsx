/**
 * Unsubscribing. The page asks once, so that a mail scanner following links takes nobody off; a mail
 * program's one-click POST (RFC 8058) needs no page.
 */
import { data, Form } from "react-router";
import { servicesContext } from "#server/context.ts";
import { getRecipient } from "#server/store/launches.ts";
import { recordEvent } from "#server/store/results.ts";
import { getSettings } from "#server/store/settings.ts";
import { suppress } from "#server/store/suppressions.ts";
import { Button } from "../ui/button.tsx";
import type { Route } from "./+types/reader.unsubscribe.ts";

export const meta = () => [{ title: "Unsubscribe" }];

type Context = Route.LoaderArgs["context"];

async function readToken(context: Context, text: string) {
  const { database, signer } = context.get(servicesContext);
  const token = signer.read(text);
  if (!token) throw data("This address is not complete.", { status: 404 });
  if (token.kind === "sample") return null;
  const recipient = await getRecipient(database.sql, token.recipient);
  if (!recipient) throw data("This address is not complete.", { status: 404 });
  return recipient;
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const recipient = await readToken(context, params.token);
  const { sender } = await getSettings(context.get(servicesContext).database.sql);
  return { brand: sender.brandName, email: recipient?.email ?? null };
}

export async function action({ params, context }: Route.ActionArgs) {
  const recipient = await readToken(context, params.token);
  if (recipient) {
    const { database, clock } = context.get(servicesContext);
    await database.tx(async (sql) => {
      await recordEvent(sql, "unsubscribed", recipient, clock.now());
      await suppress(sql, recipient.email, "unsubscribed", clock.now());
    });
  }
  return { done: true };
}

export default function Unsubscribe({ loaderData, actionData }: Route.ComponentProps) {
  const { brand, email } = loaderData;
  return (
    <main className="mx-auto mt-[16vh] w-[min(420px,90vw)]">
      <p className="text-ink-2">{brand}</p>
      {actionData ? (
        <>
          <h1 className="mt-2 text-3xl">You are unsubscribed</h1>
          <p className="mt-3 text-[15px] text-ink-2">
            {email
              ? `No more emails from us will go to ${email}.`
              : "This was a test message: nobody has been taken off."}
          </p>
        </>
      ) : (
        <>
          <h1 className="mt-2 text-3xl">Unsubscribe?</h1>
          <p className="mt-3 mb-5 text-[15px] text-ink-2">
            {email
              ? `No more emails from us will go to ${email}.`
              : "This is a test message: nobody will be taken off."}
          </p>
          <Form method="post">
            <Button type="submit" primary>
              Unsubscribe
            </Button>
          </Form>
        </>
      )}
    </main>
  );
}
