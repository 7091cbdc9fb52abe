/** Where an image stands, what is like it, and another in its place. */
import { useState } from "react";
import { Link } from "react-router";
import type { Picture } from "#core/kinds/kind.ts";
import type { LibraryPicture, PictureUse } from "#server/store/pictures.ts";
import { Button, Buttonlike } from "../ui/button.tsx";
import { Form } from "../ui/form.tsx";
import { Chip } from "../ui/page.tsx";
import { PicturePicker } from "../ui/picture-picker.tsx";
import { leftIn, type Replaced, replacedIn } from "./replaced.ts";

const HREF = {
  campaign: (id: string) => `/campaigns/${id}`,
  template: () => "/templates",
  saved: () => "/library/saved",
  derived: (id: string) => `/library/derived/${id}`,
  settings: () => "/settings",
} as const;
const KIND = {
  campaign: "email",
  template: "template",
  saved: "saved block",
  derived: "derived tag",
  settings: "logo",
} as const;

export function Uses({ uses }: { uses: readonly PictureUse[] }) {
  if (uses.length === 0) return <p className="text-ink-3">Nowhere yet.</p>;
  return (
    <ul className="flex flex-col gap-1">
      {uses.map(({ kind, id, name, fixed }) => (
        <li key={`${kind}${id}`}>
          <Link className="link" to={HREF[kind](id)}>
            {name}
          </Link>{" "}
          <Chip>{fixed ? "scheduled" : KIND[kind]}</Chip>
        </li>
      ))}
    </ul>
  );
}

export function Others({ title, pictures }: { title: string; pictures: readonly Picture[] }) {
  if (pictures.length === 0) return null;
  return (
    <section className="mt-5">
      <h2 className="mb-1.5 text-lead italic">{title}</h2>
      <ul className="flex flex-wrap gap-2">
        {pictures.map(({ id, file, name }) => (
          <li key={id}>
            <Link to={`/library/image/${id}`} className="block rounded-md border bg-bench">
              <img src={`/pictures/${file}`} alt={name} className="h-16 w-20 object-contain" />
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Puts another image in the place of this one wherever it stands. */
export function Replacing({
  picture,
  uses,
}: {
  picture: LibraryPicture;
  uses: readonly PictureUse[];
}) {
  const [by, setBy] = useState<Picture | null>(null);
  return (
    <Form method="post" className="mt-3 flex flex-wrap items-center gap-2">
      <input type="hidden" name="do" value="replace" />
      <input type="hidden" name="by" value={by?.id ?? ""} />
      {picture.replacedBy && <input type="hidden" name="seen" value={picture.replacedBy} />}
      <PicturePicker
        title="Put in its place"
        taken={by?.id ?? null}
        onTake={setBy}
        trigger={<Buttonlike type="button">Choose another for all these places</Buttonlike>}
      />
      {by && (
        <>
          <img src={`/pictures/${by.file}`} alt={by.name} className="h-10 rounded-md border" />
          <Button primary type="submit">
            Replace in {uses.length === 1 ? "1 place" : `${uses.length} places`}
          </Button>
        </>
      )}
    </Form>
  );
}

/** What came of it. */
export function ReplacedNote({ replaced }: { replaced: Replaced }) {
  return (
    <div role="status" className="mb-4 rounded-md bg-bench p-2.5">
      <p className="font-semibold">{replacedIn(replaced)}</p>
      {leftIn(replaced).map((line) => (
        <p key={line}>{line}</p>
      ))}
    </div>
  );
}
