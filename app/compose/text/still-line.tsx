/** A line of words and merge tags as it stands before it can be written in: its focus asks for that. */
import { type FocusEvent, useLayoutEffect, useRef } from "react";
import { tagWords } from "#core/merge/index.ts";
import type { Tag, TextJson, Typed } from "#core/text/index.ts";
import { useMessages } from "../messages/messages.ts";
import { useReading } from "../reading/reading.ts";
import { type HeldKeys, holdKeys } from "./held-keys.ts";
import { editing, NOT_LOADED } from "./late.ts";

export function StillLine({
  label,
  about,
  text,
  onTyped,
  onReady,
}: {
  label: string;
  /** The element that says more. */
  about: string;
  text: TextJson;
  /** It was typed into, and has been left. */
  onTyped: (typed: Typed) => void;
  /** It gives way to one that can be written in, while it has the focus: with what was typed so far. */
  onReady: (typed: Typed) => void;
}) {
  const { reader, tags } = useReading("reader", "tags");
  const { say } = useMessages();
  const held = useRef<HeldKeys | null>(null);
  const handlers = useRef({ onTyped, onReady });
  handlers.current = { onTyped, onReady };
  const leave = () => {
    const typed = held.current?.release();
    held.current = null;
    if (typed) handlers.current.onTyped(typed);
  };
  // Before the element goes, and the focus with it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: at its end alone
  useLayoutEffect(
    () => () => {
      if (!editing.now()) return leave();
      const typed = held.current?.release();
      if (typed) handlers.current.onReady(typed);
    },
    [],
  );
  const ask = ({ currentTarget }: FocusEvent) => {
    held.current ??= holdKeys([currentTarget]);
    editing.load().catch(() => say(NOT_LOADED, "wrong"));
  };
  return (
    <div
      role="textbox"
      tabIndex={0}
      className="line-editor"
      aria-label={label}
      aria-describedby={about}
      onFocus={ask}
      onBlur={leave}
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
