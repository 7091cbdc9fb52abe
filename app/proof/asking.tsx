/** While the links are asked whether anything is there, the page says so; it is read anew when they have been. */
import { useEffect } from "react";
import { useRevalidator } from "react-router";
import { answerTo } from "../ask.ts";

/** How long is waited between two looks, ms. */
const REST = 1_500;

export function AskingLinks({ campaign }: { campaign: string }) {
  const { revalidate } = useRevalidator();
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    const look = async () => {
      const answer = await answerTo<{ asking: boolean }>(`/campaigns/${campaign}/asking`);
      if (answer && !answer.asking) return revalidate();
      timer = setTimeout(look, REST);
    };
    timer = setTimeout(look, REST);
    return () => clearTimeout(timer);
  }, [campaign, revalidate]);
  return (
    <p role="status" className="text-small text-ink-2">
      Checking where the links lead…
    </p>
  );
}
