import { readdirSync, readFileSync } from "node:fs";
import { expect, it } from "vitest";

it("sets type in the sizes of the theme alone", () => {
  const others = readdirSync("app", { recursive: true, encoding: "utf8" })
    .filter((file) => file.endsWith(".tsx"))
    .flatMap((file) =>
      [
        ...readFileSync(`app/${file}`, "utf8").matchAll(
          /\btext-(?:xs|sm|base|lg|\d?xl|\[\d[^\]]*\])(?![\w-])/g,
        ),
      ].map(([found]) => `${file}: ${found}`),
    );
  expect(others).toEqual([]);
});
