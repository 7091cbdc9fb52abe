/** Makes the composer: every idea once, each with those it stands on. */
import type { Trouble } from "#core/blocks/read.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Asides } from "#core/kinds/kind.ts";
import { createWhoSees, type WhoSees } from "../rules/who-sees.ts";
import { createUploading, type Uploading } from "../ui/uploading.ts";
import { createKeptComments, type KeptComments } from "./comments/kept.ts";
import { type Commands, createCommands } from "./doing/commands.ts";
import { createLookBack, type LookBack } from "./history/looking.ts";
import { createFindings, type Findings } from "./inspecting/findings.ts";
import type { Inspection } from "./inspecting/inspect.ts";
import { createSpelled } from "./inspecting/spelled.ts";
import { createKeys } from "./keys/keys.ts";
import { type ChosenItems, createChosenItems } from "./live/chosen.ts";
import { createMessages, type Messages } from "./messages/messages.ts";
import { createPanels, type Panels } from "./panels/open.ts";
import { CLIPBOARD, createClipboard } from "./pasting/clipboard.ts";
import { createPlacing, type Placing } from "./placing/placing.ts";
import { type Around, createReading, type Reading } from "./reading/reading.ts";
import { createSelection, type Selection } from "./selection/selection.ts";
import { createSession, type Session } from "./session/session.ts";
import { leadToField } from "./settings/to-field.ts";
import type { Heard } from "./sheets/listen.ts";
import { createViews, type Views } from "./sheets/views.ts";
import { createWriter, type Writer } from "./sheets/writer.ts";
import { contentOf, type SheetContent } from "./sheets/written.ts";
import { loadAtFirstMove } from "./text/late.ts";
import type { ChosenAnswer } from "./wire.ts";

/** What the page was loaded with. */
export interface ComposerStart extends Omit<Around, "held"> {
  readonly campaign: string;
  /** The member who composes. */
  readonly person: string;
  readonly seq: number;
  readonly doc: EmailDocument;
  /** The page for a sheet with the email in it, by the name under which the server keeps it; null where there is none. */
  readonly served: string | null;
  readonly can: { readonly undo: boolean; readonly redo: boolean };
  /** Where pictures and pages are served to readers. */
  readonly publicAddress: string;
  /** The items its blocks show at first. */
  readonly chosen: ChosenAnswer;
  /** Who sees what at first, so that the sheets are right when they are first drawn. */
  readonly whoSees: WhoSees;
  /**
   * The same once all readers have been counted, and what was found about the email with them; null where it was
   * another email by then.
   */
  readonly counted: Promise<{
    whoSees: WhoSees;
    inspection: Inspection | null;
    asides: Asides;
  }>;
  /** Why it can only be looked at; null where it can be edited. */
  readonly trouble: Trouble | null;
  /** Why it can only be looked at because it is being sent or has gone out; null while it is a draft. */
  readonly sent: string | null;
  /** What to select at first, and the value in it: where a finding leads. */
  readonly selected: string | null;
  readonly field: string | null;
}

export interface Composer {
  readonly session: Session;
  readonly comments: KeptComments;
  readonly lookBack: LookBack;
  readonly chosen: ChosenItems;
  readonly reading: Reading;
  readonly selection: Selection;
  readonly findings: Findings;
  readonly uploading: Uploading;
  readonly commands: Commands;
  readonly views: Views;
  readonly placing: Placing;
  readonly panels: Panels;
  readonly writer: Writer;
  readonly messages: Messages;
  readonly heard: Heard;
  /** Lives with the page from now on; gives the way to stop. `stale` hears that the page that came next was read before the last words were stored. */
  live(stale: () => void): () => void;
  /** The page that comes next begins to be read. */
  leaving(): void;
}

export function createComposer(start: ComposerStart, say: Messages["say"]): Composer {
  const messages = createMessages(say);
  const held = start.trouble?.reason ?? start.sent;
  const session = createSession(
    { ...start, trouble: held === null ? null : { reason: held } },
    (words) => messages.say(words, "wrong"),
  );
  const comments = createKeptComments(start.campaign);
  const lookBack = createLookBack(session, messages);
  const whoSees = createWhoSees(start.campaign, start.whoSees);
  const chosen = createChosenItems(
    start.campaign,
    { doc: start.doc, contact: start.reader?.id ?? null, answer: start.chosen },
    (pictures) => reading.addPictures(pictures),
  );
  const reading = createReading({ ...start, held }, session, lookBack, whoSees, chosen);
  const selection = createSelection(reading.store, start.selected ?? "envelope");
  const findings = createFindings(
    session,
    reading,
    start.publicAddress,
    createSpelled(start.campaign),
  );
  const uploading = createUploading();
  const commands = createCommands({ session, reading, selection, uploading, messages });
  const views = createViews();
  const placing = createPlacing({ reading, selection, views, commands, messages });
  const panels = createPanels();
  const writer = createWriter({ session, reading, selection, commands, panels, views, messages });
  const keys = createKeys({ session, reading, selection, commands, panels, messages, placing });
  const clipboard = createClipboard({ reading, selection, commands, messages });
  /** Asked about the page that comes next, once it stands. */
  let readTooEarly = async () => false;

  return {
    session,
    comments,
    lookBack,
    chosen,
    reading,
    selection,
    findings,
    uploading,
    commands,
    views,
    placing,
    panels,
    writer,
    messages,
    heard: { selection, writer, placing, keys, clipboard },
    leaving() {
      readTooEarly = session.readElsewhere();
    },
    live(stale) {
      readTooEarly = session.readElsewhere();
      const stop = new AbortController();
      const { signal } = stop;
      loadAtFirstMove(document, signal);
      window.addEventListener("pagehide", () => session.flush(), { signal });
      window.addEventListener("keydown", (event) => void keys.press(event), { signal });
      for (const kind of CLIPBOARD) {
        window.addEventListener(kind, (event) => void clipboard.hear(event), { signal });
      }
      for (const kind of ["dragenter", "dragover", "dragleave", "drop"] as const) {
        window.addEventListener(kind, (event) => placing.dragFiles(event), { signal });
      }
      const stopLeading =
        start.field && start.selected
          ? leadToField(start.field, start.selected, selection)
          : () => {};
      start.counted.then(
        (known) => {
          whoSees.hear(known.whoSees);
          findings.hear(known.inspection, known.asides);
        },
        () => findings.hear(null),
      );
      const ends = [
        session.follow(),
        findings.begin(),
        reading.follow(),
        chosen.follow(),
        comments.follow(),
        selection.store.subscribe(({ selected }) => session.here(selected)),
      ];
      session.here(selection.store.getState().selected);
      return () => {
        stop.abort();
        stopLeading();
        whoSees.stop();
        for (const end of ends) end();
        void readTooEarly().then((early) => {
          if (early) stale();
        });
      };
    },
  };
}

/** What the sheets show at first of a page that is being made. */
export function firstContent(
  start: Omit<ComposerStart, "counted" | "selected" | "field" | "served">,
): SheetContent {
  const none = { selected: null, field: null, served: null, counted: new Promise<never>(() => {}) };
  return contentOf(createComposer({ ...start, ...none }, () => {}).reading.first);
}
