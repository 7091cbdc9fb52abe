/** In the place of a page that could not be loaded, within the frame that stands: what happened, and a way on. */
import { isRouteErrorResponse, Link, useRevalidator, useRouteError } from "react-router";
import { Button, Buttonlike } from "./button.tsx";

/** What an error tells a person. */
export function toldBy(error: unknown): {
  missing: boolean;
  words: string | null;
  reference: string | null;
} {
  const told: unknown = isRouteErrorResponse(error) ? error.data : null;
  const reference =
    typeof told === "object" && told !== null && "reference" in told
      ? String(told.reference)
      : null;
  return {
    missing: isRouteErrorResponse(error) && error.status === 404,
    words: typeof told === "string" ? told : null,
    reference,
  };
}

export function Told({ error }: { error: unknown }) {
  const { missing, words, reference } = toldBy(error);
  return (
    <>
      <h1 className="text-display">{missing ? "There is nothing here" : "That did not work"}</h1>
      <p className="text-ink-2 text-lead">
        {words ??
          (missing
            ? "The address may be mistyped, or what was here is gone."
            : "Something went wrong on our side. Nothing you saved is lost.")}
      </p>
      {reference && (
        <p className="text-small text-ink-3">
          It stands in the log under the reference <code>{reference}</code>.
        </p>
      )}
    </>
  );
}

/** The error boundary of every room and place. */
export function Failed() {
  const error = useRouteError();
  const { revalidate, state } = useRevalidator();
  return (
    <main className="mx-auto flex max-w-md flex-col items-start gap-4 px-6 py-16" role="alert">
      <Told error={error} />
      <div className="flex gap-2">
        <Button primary disabled={state !== "idle"} onClick={() => void revalidate()}>
          Try again
        </Button>
        <Buttonlike asChild>
          <Link to="/">Back to the desk</Link>
        </Buttonlike>
      </div>
    </main>
  );
}
