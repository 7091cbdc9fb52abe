/** Entry of a process that draws files from outside, one after another. */
import { convert, PictureError, UNREADABLE } from "./convert.ts";
import type { Answered, Asked } from "./in-child.ts";

const say = (answer: Answered) => process.send!(answer);

process.on("message", async ({ data, shrink }: Asked) => {
  const answer = await convert(Buffer.from(data), shrink).then(
    (made): Answered => ({ made }),
    (error): Answered =>
      error instanceof PictureError
        ? { refused: error.message, shrinkable: error.shrinkable }
        : { refused: UNREADABLE, shrinkable: false },
  );
  say(answer);
});
say({ ready: true });
