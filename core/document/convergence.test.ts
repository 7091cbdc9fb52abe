import { expect, it } from "vitest";
import { playSession } from "../testing/sessions.ts";

it("tabs come to the same email as the server whatever the line does, and no letter is lost", () => {
  let undone = 0;
  for (let seed = 1; seed <= 60; seed++) {
    const result = playSession(seed);
    undone += result.undone;
    expect({ seed, ...result }).toMatchObject({ diverged: 0, lettersLost: 0 });
  }
  expect(undone).toBeGreaterThan(100);
}, 60_000);
