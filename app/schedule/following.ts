/** Looks on while a campaign is being sent. */
import type { SendingData } from "./sending.tsx";

/** Opens anew what has closed for good, ms. */
const AGAIN_MS = 3_000;

/** Hears how far it is, whenever that has changed; gives the way to stop. */
export function followSending(
  campaign: string,
  hear: (sending: SendingData | null) => void,
): () => void {
  let source: EventSource;
  let timer: ReturnType<typeof setTimeout>;
  const open = () => {
    source = new EventSource(`/campaigns/${campaign}/sending`);
    source.onmessage = (event) => hear(JSON.parse(event.data));
    source.onerror = () => {
      // What was only cut comes back by itself.
      if (source.readyState === EventSource.CLOSED) timer = setTimeout(open, AGAIN_MS);
    };
  };
  open();
  return () => {
    clearTimeout(timer);
    source.close();
  };
}
