/** The review beside the proof: who looks, and what is said. */
import { useState } from "react";
import { useNavigate, useRevalidator } from "react-router";
import { Later } from "../ui/later.tsx";
import { Comments } from "./comments.tsx";
import type { ShownReview } from "./loaded.ts";
import { Reviewers } from "./reviewers.tsx";

export function Review({ campaign, review }: { campaign: string; review: Promise<ShownReview> }) {
  const [about, setAbout] = useState("");
  const { revalidate } = useRevalidator();
  const navigate = useNavigate();
  return (
    <Later of={review} until={<p className="text-ink-3">Looking for comments…</p>}>
      {({ reviewers, comments, places }) => (
        <>
          <Reviewers campaign={campaign} reviewers={reviewers} />
          <Comments
            comments={comments}
            places={places}
            about={about}
            onAbout={setAbout}
            path={`/campaigns/${campaign}/comments`}
            onSaid={() => void revalidate()}
            onShow={(node) => void navigate(`/campaigns/${campaign}?at=${node}`)}
          />
        </>
      )}
    </Later>
  );
}
