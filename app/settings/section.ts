/** What the sections of the settings share. */
import type { SubmissionResult } from "@conform-to/react";
import type { Picture } from "#core/kinds/kind.ts";
import type { DomainRecord } from "#core/mail/index.ts";
import type { Settings } from "#server/store/settings.ts";
import type { Member } from "#server/store/team.ts";
import type { Section } from "./save.ts";

export const CARD = "flex flex-col gap-3 border-t pt-4";

export interface SettingsData {
  readonly settings: Settings;
  readonly member: Member;
  /** The picture on pages for readers. */
  readonly logo: Picture | null;
  /** The fields of contacts that hold words. */
  readonly texts: readonly { readonly id: string; readonly label: string }[];
  /** The password they have is asked for with a new one. */
  readonly asks: boolean;
  readonly zones: readonly string[];
  readonly team: readonly Member[];
  /** They may say who is in the team. */
  readonly manages: boolean;
  /** The domain that emails come from, and what it publishes; null where none is written. */
  readonly domain: {
    readonly name: string;
    readonly records: Promise<readonly DomainRecord[]>;
  } | null;
}

/** What came of saving a section. */
export type Result =
  | {
      readonly what: Section;
      readonly result: SubmissionResult<string[]>;
      /** What is told where it is more than that it was saved. */
      readonly address?: { readonly name: string; readonly url: string };
    }
  | undefined;

/** The answer to one of the page's forms. */
export const answer = (result: Result, what: Section) =>
  result?.what === what ? result.result : undefined;
