/** The state of the composer, and what can be done with it. */
import {
  type RefObject,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
} from "react";
import { useRevalidator } from "react-router";
import type { Trouble } from "#core/blocks/read.ts";
import type { DerivedTag } from "#core/derived/index.ts";
import { type Edit, type EmailDocument, find } from "#core/document/index.ts";
import type { Field } from "#core/fields/index.ts";
import type { Brand, CodeRoll, Finding, Picture } from "#core/kinds/kind.ts";
import { inLanguage, languageOf } from "#core/languages/index.ts";
import { fallbacksOf, type Reader, type TagContext } from "#core/merge/index.ts";
import { conditionsOf } from "#core/render/index.ts";
import { useWhoSees, type WhoSees } from "../rules/who-sees.ts";
import { useToast } from "../ui/toast.tsx";
import type { Composer } from "./context.ts";
import type { Doing } from "./doing.ts";
import { useLooking } from "./history/use-looking.ts";
import { useInspection } from "./inspecting/use-inspection.ts";
import { handleKey } from "./keys/keys.ts";
import type { Load } from "./load.ts";
import { imageOf } from "./pasting/blocks.ts";
import { CLIPBOARD, handleClipboard } from "./pasting/clipboard.ts";
import { type Upload, useUploads } from "./pasting/use-uploads.ts";
import { type DragHandlers, type Landed, usePlacing, type Views } from "./placing/use-placing.ts";
import { putDown } from "./put-down.ts";
import { createSession, type SessionState } from "./session/session.ts";
import { isBeside, type Spot, spotAfter } from "./spots.ts";
import { useSelection } from "./use-selection.ts";
import { useReader } from "./who/use-reader.ts";
import type { ReaderChoice } from "./wire.ts";

export interface ComposerProps {
  readonly campaign: string;
  /** The member who composes. */
  readonly person: string;
  readonly seq: number;
  readonly doc: EmailDocument;
  readonly can: { readonly undo: boolean; readonly redo: boolean };
  readonly brand: Brand;
  /** Where pictures and pages are served to readers. */
  readonly publicAddress: string;
  readonly pictures: readonly Picture[];
  readonly fields: readonly Field[];
  readonly derived: readonly DerivedTag[];
  readonly rolls: readonly CodeRoll[];
  /** Values that are the same for all readers. */
  readonly fixedValues: Reader["values"];
  readonly reader: ReaderChoice | null;
  /** Who sees what at first, so that the sheets are right when they are first drawn. */
  readonly whoSees: WhoSees;
  /** Why it can only be looked at; null where it can be edited. */
  readonly trouble: Trouble | null;
  /** Why it can only be looked at because it is being sent or has gone out; null while it is a draft. */
  readonly sent: string | null;
  /** What to select at first: where a finding leads. */
  readonly selected: string | null;
  readonly tools: HTMLElement | null;
  /** Hears what the checks find; null while nothing is known. */
  onFindings(findings: readonly Finding[] | null): void;
}

/** What only the composer's own screen needs beside what its parts share. */
export interface ComposerState {
  readonly composer: Composer;
  readonly state: SessionState;
  readonly views: RefObject<Views>;
  /** Where what is on its way would land. */
  readonly landing: Landed | null;
  readonly handlers: DragHandlers;
  readonly announcer: RefObject<HTMLDivElement | null>;
  readonly adding: boolean;
  setAdding(open: boolean): void;
  readonly finding: boolean;
  setFinding(open: boolean): void;
  setReadingAs(reader: ReaderChoice | null): void;
  setEverything(on: boolean): void;
  setLanguage(lang: string | null): void;
  readonly translating: string | null;
  setTranslating(lang: string | null): void;
  readonly uploads: readonly Upload[];
  dismissUpload(id: number): void;
}

export function useComposerState(props: ComposerProps): ComposerState {
  const say = useToast();
  const wrong = useCallback((text: string) => say(text, "wrong"), [say]);
  const [session] = useState(() =>
    createSession(
      { ...props, trouble: props.trouble ?? (props.sent ? { reason: props.sent } : null) },
      wrong,
    ),
  );
  const state = useSyncExternalStore(session.subscribe, session.state, session.state);
  const history = useLooking(props.campaign, session, say);
  const doc = history.looking?.doc ?? state.doc;
  const fixed = history.looking
    ? "This is an earlier state: go back to it first, or show it as it is now."
    : (props.trouble?.reason ?? props.sent);

  const [pictures, setPictures] = useState(props.pictures);
  const surroundings = useMemo(
    () => ({
      brand: props.brand,
      publicAddress: "",
      derived: new Map(props.derived.map((tag) => [tag.id, tag])),
      rolls: new Map(props.rolls.map((roll) => [roll.id, roll])),
      fallbacks: fallbacksOf(props.fields),
      pictures: new Map(pictures.map((picture) => [picture.id, picture])),
    }),
    [props.brand, props.derived, props.rolls, props.fields, pictures],
  );
  const [readingAs, setReadingAs] = useState(props.reader);
  const { derived, fallbacks } = surroundings;
  const found = conditionsOf(doc, derived);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the same conditions are the same list
  const conditions = useMemo(() => found, [found.join()]);
  const contact = readingAs?.id ?? null;
  const whoSees = useWhoSees(props.campaign, conditions, contact, props.whoSees);
  // The checks weigh what goes out, with the address readers know it by; the sheets load from where they are.
  const sent = useMemo(
    () => ({ ...surroundings, publicAddress: props.publicAddress }),
    [surroundings, props.publicAddress],
  );
  const inspection = useInspection(state.doc, sent, props.fields, whoSees);
  const reader = useReader(readingAs, props.fixedValues, conditions, whoSees);
  const [everything, setEverything] = useState(false);
  const [language, setLanguage] = useState<string | null>(null);
  const [translating, setTranslating] = useState<string | null>(null);
  const lang = language ?? languageOf(doc, reader.values);
  const shown = inLanguage(doc, lang);
  const tags: TagContext = useMemo(
    () => ({ lang, conditions, derived, fallbacks }),
    [lang, conditions, derived, fallbacks],
  );
  const [writing, setWriting] = useState<Composer["writing"]>(null);
  const [adding, setAdding] = useState(false);
  const [finding, setFinding] = useState(false);
  const views = useRef<Views>({ wide: null, narrow: null });

  const now = useCallback(() => session.state().doc, [session]);
  const selection = useSelection(doc, now, props.selected ?? "envelope");
  const { selected, chosen } = selection;
  const select = useCallback<Composer["select"]>(
    (what, how) => {
      selection.select(what, how);
      setWriting((before) => (before?.node === what ? before : null));
    },
    [selection.select],
  );
  const edit = useCallback(
    (change: Edit) => {
      if (fixed) wrong(fixed);
      return fixed === null && session.edit(change);
    },
    [session, fixed, wrong],
  );
  const run = useCallback(
    (doing: Doing | null) => {
      const done = doing !== null && edit(doing.edit);
      if (done && doing.select !== undefined) select(doing.select);
      return done;
    },
    [edit, select],
  );
  const announcer = useRef<HTMLDivElement>(null);
  const announce = useCallback((words: string) => {
    if (announcer.current) announcer.current.textContent = words;
  }, []);
  const addPicture = useCallback((picture: Picture) => {
    setPictures((before) => [picture, ...before.filter((one) => one.id !== picture.id)]);
  }, []);
  const { uploads, send, dismiss } = useUploads();
  /** Each picture stands after the one before it, wherever the first was put. */
  const addFiles = useCallback(
    (files: readonly File[], spot: Spot | null) => {
      let at = spot;
      send(files, (picture) => {
        addPicture(picture);
        const nodes = [imageOf(now(), picture)];
        const load: Load = { kind: "ready", nodes, label: picture.name };
        const current = now();
        const doing =
          (at && standsStill(current, at) && putDown(current, load, at)) ||
          putDown(current, load, spotAfter(current, latest.current.selected, load));
        run(doing);
        const made = typeof doing?.select === "string" ? find(now(), doing.select) : null;
        if (made?.parent) at = { parent: made.parent.id, after: made.node.id };
      });
    },
    [send, addPicture, now, run],
  );
  const { placing, landing, handlers } = usePlacing({
    doc,
    selected,
    views,
    fixed: fixed !== null,
    run,
    announce,
    say,
    onFiles: addFiles,
  });
  const composer: Composer = useMemo(
    () => ({
      campaign: props.campaign,
      session,
      doc,
      lang,
      shown,
      language,
      newest: state.doc,
      history,
      inspection,
      others: state.others,
      fields: props.fields,
      surroundings,
      reader,
      tags,
      whoSees,
      everything,
      readingAs,
      fixed,
      selected,
      chosen,
      writing,
      placing,
      select,
      write: (id, on) => setWriting(id === null || fixed ? null : { node: id, on: on ?? null }),
      edit,
      run,
      translate: setTranslating,
      openFind: () => setFinding(true),
      openList: () => setAdding(true),
      add: (what) =>
        placing.put(what, spotAfter(doc, selected === "envelope" ? null : selected, what)),
      addPicture,
      addFiles: (files) => addFiles(files, null),
      say,
      announce,
    }),
    [
      props.campaign,
      session,
      doc,
      lang,
      shown,
      language,
      state.doc,
      history,
      inspection,
      state.others,
      props.fields,
      fixed,
      surroundings,
      reader,
      tags,
      whoSees,
      everything,
      readingAs,
      selected,
      chosen,
      writing,
      placing,
      select,
      edit,
      run,
      addPicture,
      addFiles,
      say,
      announce,
    ],
  );
  const latest = useRef(composer);
  latest.current = composer;

  const { onFindings } = props;
  const findings = props.trouble ? null : (inspection?.findings ?? null);
  useEffect(() => onFindings(findings), [onFindings, findings]);
  useEffect(() => session.here(selected), [session, selected]);

  const { revalidate } = useRevalidator();
  useEffect(() => session.follow(), [session]);
  useEffect(() => {
    const flush = () => session.flush();
    const key = (event: KeyboardEvent) => void handleKey(event, latest.current);
    const clip = (event: ClipboardEvent) => handleClipboard(event, latest.current);
    window.addEventListener("pagehide", flush);
    window.addEventListener("keydown", key);
    for (const kind of CLIPBOARD) window.addEventListener(kind, clip);
    return () => {
      window.removeEventListener("pagehide", flush);
      window.removeEventListener("keydown", key);
      for (const kind of CLIPBOARD) window.removeEventListener(kind, clip);
      // The room that comes next may have read the email before the last words were saved.
      void session.finish().then((sent) => {
        if (sent) void revalidate();
      });
    };
  }, [session, revalidate]);

  return {
    composer,
    state,
    views,
    landing,
    handlers,
    announcer,
    adding,
    setAdding,
    finding,
    setFinding,
    setReadingAs,
    setEverything,
    setLanguage,
    translating,
    setTranslating,
    uploads,
    dismissUpload: dismiss,
  };
}

/** Whether a spot is still where it was. */
const standsStill = (doc: EmailDocument, spot: Spot): boolean =>
  isBeside(spot)
    ? find(doc, spot.beside) !== null
    : find(doc, spot.parent) !== null && (spot.after === null || find(doc, spot.after) !== null);
