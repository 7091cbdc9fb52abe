/** What a person does with the email: every change goes through here, and none of these ever changes itself. */
import { type Edit, type EmailDocument, find } from "#core/document/index.ts";
import type { Uploading } from "../../ui/uploading.ts";
import type { Messages } from "../messages/messages.ts";
import { imageOf } from "../pasting/blocks.ts";
import type { Load } from "../placing/load.ts";
import { isBeside, type Spot, spotAfter, wordsFor } from "../placing/spots.ts";
import type { Reading } from "../reading/reading.ts";
import type { Selection } from "../selection/selection.ts";
import type { Session } from "../session/session.ts";
import { handedDown } from "../shared.ts";
import { countUse } from "../tray/usage.ts";
import type { Doing } from "./doing.ts";
import { putDown } from "./put-down.ts";

export interface Commands {
  /** Makes an edit; where nothing can be changed, or it does not fit, gives false and says why. */
  edit(edit: Edit): boolean;
  /** Does it and selects what it says; nothing where it is null. Gives whether it was done. */
  run(doing: Doing | null): boolean;
  /** Puts something down at a spot, says where, and counts what is used. Gives whether it was done. */
  put(load: Load, spot: Spot): boolean;
  /** Puts something in after the selection. Gives whether it was done. */
  add(load: Load): boolean;
  /** Sends picture files to the library and puts each in: at a spot, or after the selection. */
  addFiles(files: readonly File[], spot?: Spot): void;
}

/** Whether a spot is still where it was. */
const standsStill = (doc: EmailDocument, spot: Spot): boolean =>
  isBeside(spot)
    ? find(doc, spot.beside) !== null
    : find(doc, spot.parent) !== null && (spot.after === null || find(doc, spot.after) !== null);

export function createCommands({
  session,
  reading,
  selection,
  uploading,
  messages,
}: {
  session: Pick<Session, "edit">;
  reading: Reading;
  selection: Selection;
  uploading: Pick<Uploading, "send">;
  messages: Pick<Messages, "say" | "announce">;
}): Commands {
  const shown = () => reading.store.getState().doc;
  function edit(change: Edit): boolean {
    const { fixed } = reading.store.getState();
    if (fixed !== null) messages.say(fixed, "wrong");
    return fixed === null && session.edit(change);
  }
  function run(doing: Doing | null): boolean {
    const done = doing !== null && edit(doing.edit);
    if (done && doing.select !== undefined) selection.select(doing.select);
    return done;
  }
  function put(load: Load, spot: Spot): boolean {
    const doc = shown();
    reading.beside.paintFirst();
    if (!run(putDown(doc, load, spot))) return false;
    if (load.kind === "new") countUse(load.type);
    messages.announce(`Put in ${wordsFor(doc, spot)}`);
    return true;
  }
  return {
    edit,
    run,
    put,
    add(load) {
      const { selected } = selection.store.getState();
      return put(load, spotAfter(shown(), selected === "envelope" ? null : selected, load));
    },
    /** Each picture stands after the one before it, wherever the first was put. */
    addFiles(files, spot) {
      let at = spot ?? null;
      uploading.send(files, (picture) => {
        reading.addPicture(picture);
        const doc = shown();
        const load: Load = { kind: "ready", nodes: [imageOf(doc, picture)], label: picture.name };
        const doing =
          (at && standsStill(doc, at) && putDown(doc, load, at)) ||
          putDown(doc, load, spotAfter(doc, selection.store.getState().selected, load));
        run(doing);
        const made = typeof doing?.select === "string" ? find(shown(), doing.select) : null;
        if (made?.parent) at = { parent: made.parent.id, after: made.node.id };
      });
    },
  };
}

export const { Provider: CommandsProvider, use: useCommands } = handedDown<Commands>("commands");
