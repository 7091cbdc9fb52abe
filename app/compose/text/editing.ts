/** What writing takes and reading does not; a script of its own (`late.ts`). */

export { beginWriting } from "../sheets/writing.ts";
export { WordsTool } from "../who/words-tool.tsx";
export { createTextEditor } from "./editor.ts";
export { FormatBar } from "./format-bar.tsx";
export { formatOf } from "./formatting.ts";
