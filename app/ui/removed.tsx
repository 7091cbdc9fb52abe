/** Tells what was removed, with a way to put it back. */
import { useEffect } from "react";
import { useFetcher } from "react-router";
import { REMOVED } from "../removed-param.ts";
import { usePut } from "./put.ts";
import { useToast } from "./toast.tsx";

export interface Removed {
  readonly id: string;
  readonly label: string;
}

export function RemovedMessage({ removed }: { removed: Removed | null }) {
  const say = useToast();
  const put = usePut();
  const { submit, data } = useFetcher<{ back: boolean; words: string }>();
  const id = removed?.id ?? null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is told once for each thing that was removed
  useEffect(() => {
    if (!removed) return;
    say(`${removed.label} has been deleted.`, "plain", () =>
      submit(null, { method: "post", action: `/removed/${removed.id}` }),
    );
    put(REMOVED, null);
  }, [id]);
  useEffect(() => {
    if (data) say(data.words, data.back ? "plain" : "wrong");
  }, [data, say]);
  return null;
}
