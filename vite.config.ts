import { fileURLToPath } from "node:url";
import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig, type Plugin } from "vite";

/** The HTML cleaner names it for parsing styles, which we do not ask of it (`core/blocks/cleaner/clean-html.ts`). */
const cleanerWithoutPostcss = (): Plugin => ({
  name: "cleaner-without-postcss",
  enforce: "pre",
  resolveId: (source, importer) =>
    source === "postcss" && importer?.includes("sanitize-html")
      ? fileURLToPath(new URL("./app/no-postcss.ts", import.meta.url))
      : null,
});

/** The pieces of the interface in one file: as files of their own they are sixty requests for a page. */
const KIT = { name: "kit", minShareCount: 3, test: /app\/ui\/|lucide-react|clsx|radix/ };

/** Packages that bring programs or files of their own, and read them where they stand. */
const FROM_THEIR_FOLDERS = [
  "@electric-sql/pglite",
  "dictionary-en",
  "dictionary-en-gb",
  "dictionary-fr",
  "hunspell-asm",
  "pino",
  "sharp",
];

export default defineConfig(({ isSsrBuild }) => ({
  plugins: [tailwindcss(), reactRouter(), ...(isSsrBuild ? [] : [cleanerWithoutPostcss()])],
  worker: { plugins: () => [cleanerWithoutPostcss()] },
  // The server starts from a few files of its own: to find and open those of all packages takes longer than to run them.
  ssr: isSsrBuild ? { noExternal: true, external: FROM_THEIR_FOLDERS } : {},
  build: {
    target: "es2022",
    // Fonts as files: the page policy lets none come from data addresses.
    assetsInlineLimit: 0,
    rolldownOptions: isSsrBuild
      ? {
          input: {
            main: "./server/main.ts",
            "db-worker": "./server/db/worker.ts",
            "import-worker": "./server/import/worker.ts",
            "making-worker": "./server/jobs/making/worker.ts",
            "arriving-worker": "./server/arriving/worker.ts",
            "spelling-worker": "./server/writing/spelling-worker.ts",
            "picture-child": "./server/images/child.ts",
          },
          output: { entryFileNames: "[name].js", chunkFileNames: "chunks/[name]-[hash].js" },
        }
      : { output: { codeSplitting: { groups: [KIT] } } },
  },
}));
