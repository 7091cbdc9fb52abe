/** The session has ended: nothing is lost, and one signs in again in place. */
import { type FormEvent, useState } from "react";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { Field, INPUT } from "../../ui/field.tsx";
import { useSession } from "./session.ts";

/** Signs in without leaving the page. Gives what is wrong, or null where it worked. */
async function signIn(form: FormData): Promise<string | null> {
  try {
    const response = await fetch("/sign-in", {
      method: "POST",
      body: new URLSearchParams(form as never),
      redirect: "manual",
    });
    // Signed in, it leads on; there is nowhere to go from here.
    if (response.type === "opaqueredirect") return null;
    if (response.status === 429) return "Too many tries; wait a minute.";
    return "This address and password do not go together.";
  } catch {
    return "There is no connection; try again in a moment.";
  }
}

export function SignedOut() {
  const session = useSession();
  const [open, setOpen] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    setBusy(true);
    const wrong = await signIn(new FormData(event.currentTarget));
    setBusy(false);
    setProblem(wrong);
    if (wrong) return;
    setOpen(false);
    session.signedIn();
  };
  return (
    <div
      role="alert"
      className="flex items-center gap-3 border-b border-saffron bg-saffron-soft px-3.5 py-1.5 text-small"
    >
      <span>
        You are signed out. What you change is kept here, and saved when you sign in again.
      </span>
      <Button onClick={() => setOpen(true)}>Sign in</Button>
      <Dialog title="Sign in again" open={open} onOpenChange={setOpen}>
        <form onSubmit={submit} className="flex flex-col gap-3">
          <Field label="Email address" errors={problem ? [problem] : null}>
            {(ids) => (
              <input
                {...ids}
                name="email"
                type="email"
                required
                autoComplete="username"
                className={INPUT}
              />
            )}
          </Field>
          <Field label="Password">
            {(ids) => (
              <input
                {...ids}
                name="password"
                type="password"
                required
                autoComplete="current-password"
                className={INPUT}
              />
            )}
          </Field>
          <p className="text-ink-3 text-small">
            You can sign in in another tab too: this one goes on by itself.
          </p>
          <div>
            <Button type="submit" primary disabled={busy}>
              {busy ? "Signing in…" : "Sign in"}
            </Button>
          </div>
        </form>
      </Dialog>
    </div>
  );
}
