/** A line of words and merge tags as it stands before it can be written in: its focus asks for that. */
import { type FocusEvent, useLayoutEffect, useRef } from "react";
import { tagWords } from "#core/merge/index.ts";
import type { Tag, TextJson } from "#core/text/index.ts";
import { useMessages } from "../messages/messages.ts";
import { useReading } from "../reading/reading.ts";
import { type HeldKeys, holdKeys } from "./held-keys.ts";
import { editing } from "./late.ts";

/** How a line is left that becomes one to write in: with what was typed, and null where the focus was elsewhere. */
export type Left = (typed: string | null) => void;

export function StillLine({
  label,
  about,
  text,
  onLeft,
}: {
  label: string;
  /** The element that says more. */
  about: string;
  text: TextJson;
  onLeft: Left;
}) {
  const { reader, tags } = useReading("reader", "tags");
  const { say } = useMessages();
  const held = useRef<HeldKeys | null>(null);
  const left = useRef(onLeft);
  left.current = onLeft;
  // Before the element goes, and the focus with it.
  useLayoutEffect(
    () => () => {
      left.current(held.current?.release() ?? null);
      held.current = null;
    },
    [],
  );
  const ask = ({ currentTarget }: FocusEvent) => {
    held.current ??= holdKeys([currentTarget]);
    editing.load().catch(() => say("Writing could not be loaded. Please try again.", "wrong"));
  };
  return (
    <div
      role="textbox"
      tabIndex={0}
      className="line-editor"
      aria-label={label}
      aria-describedby={about}
      onFocus={ask}
      onBlur={() => {
        held.current?.release();
        held.current = null;
      }}
    >
      {(text.content ?? []).map((part, i) =>
        part.type === "tag" ? (
          <span key={i} className="tag">
            {tagWords(part.attrs as unknown as Tag, reader, tags) || "…"}
          </span>
        ) : (
          part.text
        ),
      )}
    </div>
  );
}
