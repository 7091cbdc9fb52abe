import { ImagePlus } from "lucide-react";
import { useState } from "react";
import { alternativesOf, derivedIdOf, type PictureValue } from "#core/derived/index.ts";
import { together, valueAt } from "#core/document/index.ts";
import type { Json } from "#core/json.ts";
import type { Picture } from "#core/kinds/kind.ts";
import { ITEM_PICTURE, isBlank, type Line, line, type TextJson } from "#core/text/index.ts";
import { Buttonlike } from "../../../ui/button.tsx";
import { Checkbox } from "../../../ui/checkbox.tsx";
import { Field } from "../../../ui/field.tsx";
import { PicturePicker } from "../../../ui/picture-picker.tsx";
import { Select } from "../../../ui/select.tsx";
import { useCommands } from "../../doing/commands.ts";
import { useDesigned } from "../../live/item-tags.ts";
import { useReader, useReading } from "../../reading/reading.ts";
import { fieldOf } from "../to-field.ts";
import { type Props, useValue } from "./control.ts";
import { EditPicture } from "./edit-picture.tsx";

export function PictureControl({ node, control }: Props<"picture">) {
  const { surroundings } = useReading("surroundings");
  const { addPicture } = useReader();
  const [id, set] = useValue<string | null>(node, control.path);
  const { edit } = useCommands();
  /** Whose alt text may have been meant for the picture before: the node's, at this picture. */
  const [doubted, setDoubted] = useState<string | null>(null);
  const chooser = id !== null && derivedIdOf(id) !== null ? id : null;
  const choosers = control.same
    ? []
    : [...(surroundings.derived?.values() ?? [])].filter(({ kind }) => kind === "picture");
  const chosenBy = choosers.find((one) => `derived:${one.id}` === chooser);
  // Of several the first is shown.
  const designed = useDesigned();
  const ofItem = id === ITEM_PICTURE;
  const shown = ofItem
    ? (designed?.first?.picture ?? null)
    : chosenBy
      ? alternativesOf<PictureValue>(chosenBy)[0]!.value.picture
      : id;
  const picture = shown ? surroundings.pictures.get(shown) : undefined;
  const alt = valueAt(node.props, [...control.path.slice(0, -1), "alt"]) as TextJson | undefined;
  const take = (taken: Picture) => {
    addPicture(taken);
    if (taken.id === id) return;
    const way = control.path.slice(0, -1);
    const put = (path: readonly string[], value: Json) => ({
      ...{ type: "set" as const, node: node.id, path: [...path], value },
    });
    // What the library says that it shows is put in where nobody has said anything else.
    const known = alt !== undefined && isBlank(alt as Line) && taken.alt ? line(taken.alt) : null;
    edit(
      together([
        put(control.path, taken.id),
        ...(known ? [put([...way, "alt"], known as unknown as Json)] : []),
      ]),
    );
    if (alt !== undefined && !known) setDoubted(taken.id);
  };
  const { shape } = node.props;
  return (
    <div>
      <div className="mb-1 text-small text-ink-2">{control.label}</div>
      <div className="flex items-center gap-2.5">
        <div className="flex h-14 w-20 flex-none items-center justify-center overflow-hidden rounded-md bg-bench">
          {picture && (
            <img src={`/pictures/${picture.file}`} alt="" className="max-h-full max-w-full" />
          )}
        </div>
        <PicturePicker
          taken={id}
          here={[...surroundings.pictures.values()]}
          onTake={take}
          trigger={
            <Buttonlike type="button" aria-label={`${control.label}: choose`}>
              <ImagePlus className="size-3.5" /> Choose
            </Buttonlike>
          }
        />
        {picture && !chosenBy && !ofItem && !picture.file.endsWith(".gif") && (
          <EditPicture
            picture={picture}
            place={typeof shape === "number" && shape > 0 ? 100 / shape : null}
            onMade={(made) => {
              addPicture(made);
              // It shows the same: its alt text still fits.
              set(made.id);
            }}
          />
        )}
      </div>
      {doubted !== null && doubted === id && (
        <p
          role="status"
          className="mt-2 rounded-md bg-saffron-soft p-2 text-small text-saffron-ink"
        >
          {alt?.content?.length
            ? "The alt text was written for the image before. Does it say what this one shows?"
            : "Say in the alt text what this image shows, for those who do not see it."}{" "}
          <button type="button" className="link" onClick={() => toAltText(control.path)}>
            Write the alt text
          </button>{" "}
          <button type="button" className="link ml-2" onClick={() => setDoubted(null)}>
            It fits
          </button>
        </p>
      )}
      {designed && !control.same && (
        <div className="mt-1.5">
          <Checkbox
            label={`The ${designed.kind.item}’s own image`}
            checked={ofItem}
            onChange={({ target: { checked } }) => set(checked ? ITEM_PICTURE : null)}
          />
        </div>
      )}
      {choosers.length > 0 && (
        <div className="mt-1.5">
          <Field label="Or chosen for each reader by">
            {(own) => (
              <Select
                {...own}
                value={chooser ?? ""}
                none="nothing: it is the same for all"
                options={choosers.map(({ id, name }) => ({ value: `derived:${id}`, label: name }))}
                onValue={(next) => set(next || null)}
              />
            )}
          </Field>
        </div>
      )}
    </div>
  );
}

/** Puts the focus into the alt text of the picture at a path. */
function toAltText(path: readonly string[]): void {
  const at = [...path.slice(0, -1), "alt"].join(".");
  fieldOf(at)?.focus();
}
