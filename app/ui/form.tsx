/** The form of every page: what it sends is sent once, and its buttons show that it is on its way. */
import { createContext, useContext, useEffect, useRef, useState } from "react";
import {
  type FetcherWithComponents,
  type FormProps,
  Form as RouterForm,
  useNavigation,
} from "react-router";

type Fetcher = Pick<FetcherWithComponents<unknown>, "Form" | "state">;

const Busy = createContext(false);

/** Whether the form around this is on its way. */
export const useFormBusy = () => useContext(Busy);

/** The answer to what was sent is there, and leads nowhere else. */
const isAnswered = ({ state, formAction, location }: ReturnType<typeof useNavigation>) =>
  state === "loading" && formAction?.split("?")[0] === location?.pathname;

/** With a fetcher what is sent leaves the page where it is. */
export function Form({ onSubmit, fetcher, ...rest }: FormProps & { fetcher?: Fetcher }) {
  const navigation = useNavigation();
  const state = fetcher ? fetcher.state : navigation.state;
  const Sending = fetcher ? fetcher.Form : RouterForm;
  const sent = useRef(false);
  const [busy, setBusy] = useState(false);
  // The page shows the answer while what it tells of is loaded anew: it can be acted on from then.
  const answered = state === "idle" || (!fetcher && isAnswered(navigation));
  useEffect(() => {
    if (!answered) return;
    sent.current = false;
    setBusy(false);
  }, [answered]);
  return (
    <Busy value={busy}>
      <Sending
        {...rest}
        aria-busy={busy || undefined}
        onSubmit={(event) => {
          onSubmit?.(event);
          if (event.defaultPrevented || rest.method !== "post") return;
          // A second click before the first has been answered does nothing.
          if (sent.current) event.preventDefault();
          sent.current = true;
          setBusy(true);
        }}
      />
    </Busy>
  );
}
