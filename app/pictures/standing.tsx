/** What is like an image, and another in its place. */
import { useState } from "react";
import { Link } from "react-router";
import type { Picture } from "#core/kinds/kind.ts";
import type { LibraryPicture } from "#server/store/pictures.ts";
import type { Use } from "#server/store/uses.ts";
import { Button, Buttonlike } from "../ui/button.tsx";
import { Form } from "../ui/form.tsx";
import { PicturePicker } from "../ui/picture-picker.tsx";
import { counted } from "../ui/words.ts";
import { leftIn, type Replaced, replacedIn } from "./replaced.ts";

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
export function Replacing({ picture, uses }: { picture: LibraryPicture; uses: readonly Use[] }) {
  const [by, setBy] = useState<Picture | null>(null);
  return (
    <Form method="post" className="mt-3 flex flex-wrap items-center gap-2">
      <input type="hidden" name="do" value="replace" />
      <input type="hidden" name="by" value={by?.id ?? ""} />
      {picture.replacedBy && <input type="hidden" name="seen" value={picture.replacedBy} />}
      <PicturePicker
        title="Choose the replacement"
        taken={by?.id ?? null}
        onTake={setBy}
        trigger={<Buttonlike type="button">Choose a replacement for all these places</Buttonlike>}
      />
      {by && (
        <>
          <img src={`/pictures/${by.file}`} alt={by.name} className="h-10 rounded-md border" />
          <Button primary type="submit">
            Replace in {counted(uses.length, "place")}
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
