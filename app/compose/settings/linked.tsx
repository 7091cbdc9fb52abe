/** That what is selected is linked: changed everywhere, unlinked, or put back as it is elsewhere. */
import { Link2 } from "lucide-react";
import { useEffect, useState } from "react";
import { filled, linkedAround, linkedTo, linkOf } from "#core/blocks/linked.ts";
import { type DocNode, find, together } from "#core/document/index.ts";
import { answerTo, ask, wordsOf } from "../../ask.ts";
import { Button, Buttonlike } from "../../ui/button.tsx";
import { Confirm } from "../../ui/confirm.tsx";
import { useToast } from "../../ui/toast.tsx";
import { useCommands } from "../doing/commands.ts";
import { newNodeId } from "../doing/ids.ts";
import { useReading } from "../reading/reading.ts";
import { useSelecting } from "../selection/selection.ts";

interface Known {
  readonly name: string;
  readonly nodes: readonly DocNode[];
  readonly places: readonly {
    readonly kind: string;
    readonly name: string;
    readonly fixed: boolean;
  }[];
}
const NAMED = 8;

/** The places, in a sentence. */
function placesIn({ places }: Known): string {
  const names = places.filter(({ fixed }) => !fixed).map(({ name }) => `“${name}”`);
  const fixed = places.filter((one) => one.fixed).map(({ name }) => `“${name}”`);
  const listed = names.slice(0, NAMED).join(", ");
  const more = names.length > NAMED ? ` and ${names.length - NAMED} more` : "";
  const kept = fixed.length > 0 ? ` What is scheduled stays as it is: ${fixed.join(", ")}.` : "";
  return `It is used in ${listed || "this email alone"}${more}, which will all show it so. Emails that are sent stay as they were.${kept}`;
}

function LinkedParts({ linked }: { linked: DocNode }) {
  const { doc } = useReading("doc");
  const { edit } = useCommands();
  const { select } = useSelecting();
  const say = useToast();
  const [known, setKnown] = useState<Known | null>(null);
  const [busy, setBusy] = useState(false);
  const link = linkOf(linked)!;
  const at = `/library/saved/${link.saved}/places`;
  useEffect(() => {
    let stale = false;
    void answerTo<Known>(at).then((found) => {
      if (!stale) setKnown(found);
    });
    return () => {
      stale = true;
    };
  }, [at]);
  const set = (value: { saved: string; own?: true } | undefined) =>
    edit({ type: "set", node: linked.id, path: ["linked"], value });
  const unlink = () => set(undefined);
  const putIn = async () => {
    setBusy(true);
    const reply = await ask<unknown>(at, { json: { node: linked } });
    setBusy(false);
    if (reply.kind !== "ok") return say(wordsOf(reply, "It was not changed. Try again."), "wrong");
    set({ saved: link.saved });
    say(`“${known?.name ?? "The saved block"}” is changed everywhere`);
  };
  const back = () => {
    const [saved] = known?.nodes ?? [];
    const place = find(doc, linked.id);
    if (!saved || !place?.parent) return;
    const after = place.parent.children[place.index - 1]?.id ?? null;
    const node = linkedTo(link.saved, filled(linked, saved, newNodeId));
    edit(
      together([
        { type: "remove", node: linked.id },
        { type: "insert", parent: place.parent.id, after, node },
      ]),
    );
    select(node.id);
  };
  const name = known ? `“${known.name}”` : "a saved block";
  return (
    <section aria-label="Linked" className="rounded-md bg-plum-soft px-2.5 py-2 text-small">
      <p className="flex items-start gap-2 text-plum">
        <Link2 className="mt-0.5 size-3.5 flex-none" aria-hidden />
        {link.own
          ? `You are changing ${name} here. It is this email’s own until it is put in everywhere.`
          : `It is ${name}, and the same wherever it stands.`}
      </p>
      <div className="mt-2 flex flex-wrap gap-1.5">
        {link.own ? (
          <>
            <Confirm
              title={`Put ${name} in everywhere?`}
              about={known ? placesIn(known) : ""}
              act="Put it in everywhere"
              onAct={() => void putIn()}
              trigger={
                <Buttonlike type="button" disabled={busy || !known}>
                  Put it in everywhere…
                </Buttonlike>
              }
            />
            <Button onClick={back} disabled={!known}>
              Discard the changes
            </Button>
          </>
        ) : (
          <Button onClick={() => set({ saved: link.saved, own: true })} disabled={!known}>
            Change it
          </Button>
        )}
        <Button onClick={unlink}>Unlink</Button>
      </div>
    </section>
  );
}

/** For what is linked, or stands in something that is. */
export function LinkedNote({ node }: { node: DocNode }) {
  const { doc } = useReading("doc");
  const linked = linkedAround(doc, node.id);
  return linked && <LinkedParts key={linked.id} linked={linked} />;
}
